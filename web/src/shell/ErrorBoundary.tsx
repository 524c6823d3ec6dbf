import Alert from '@mui/material/Alert';
import Button from '@mui/material/Button';
import { Component, type ReactNode } from 'react';

/** A view that fails says so, and offers a way back; the rest of the page stays. */
export class ErrorBoundary extends Component<{ children: ReactNode }, { error?: Error }> {
  override state: { error?: Error } = {};

  static getDerivedStateFromError(error: Error) {
    return { error };
  }

  override render() {
    const { error } = this.state;
    if (!error) return this.props.children;
    const anew = () => {
      sessionStorage.removeItem('nexufix.asking'); // what was asked may be what it fails on
      window.location.assign('/');
    };
    return (
      <main className="sheet">
        <h1>This view failed</h1>
        <Alert severity="error">
          {error.message} Nothing that is saved was changed.
        </Alert>
        <p className="quick">
          <Button variant="contained" onClick={() => this.setState({ error: undefined })}>
            Try again
          </Button>
          <Button onClick={anew}>Begin anew on the bench</Button>
        </p>
      </main>
    );
  }
}

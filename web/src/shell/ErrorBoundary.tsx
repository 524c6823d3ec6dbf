import Alert from '@mui/material/Alert';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { Component, type ReactNode } from 'react';
import { Page, Quick } from '../parts/Page';

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
      sessionStorage.removeItem('nexufix.inputs'); // what was asked may be what it fails on
      window.history.replaceState(null, '', '/');
      window.location.assign('/');
    };
    return (
      <Page>
        <Typography variant="h1">This view failed</Typography>
        <Alert severity="error">{error.message} Nothing that is saved was changed.</Alert>
        <Quick>
          <Button variant="contained" onClick={() => this.setState({ error: undefined })}>
            Try again
          </Button>
          <Button onClick={anew}>Begin anew on the bench</Button>
        </Quick>
      </Page>
    );
  }
}

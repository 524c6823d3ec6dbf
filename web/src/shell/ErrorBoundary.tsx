import { t } from '@lingui/core/macro';
import Alert from '@mui/material/Alert';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { Component, type ReactNode } from 'react';
import { at } from '../base';
import { Page, Quick } from '../parts/Page';
import { answers, Unloaded } from '../parts/again';

/** A view that fails says so, and offers a way back; the rest of the page stays. */
export class ErrorBoundary extends Component<{ children: ReactNode }, { error?: Error; away?: boolean }> {
  override state: { error?: Error; away?: boolean } = {};

  static getDerivedStateFromError(error: Error) {
    return { error };
  }

  override render() {
    const { error, away } = this.state;
    if (!error) return this.props.children;
    // What could not be loaded stays so until the page is loaded again, which keeps its address and what was typed.
    const unloaded = error instanceof Unloaded;
    const again = async () => {
      if (!unloaded) return this.setState({ error: undefined });
      if (await answers()) window.location.reload();
      else this.setState({ away: true });
    };
    const anew = () => {
      sessionStorage.removeItem('nexufix.inputs'); // what was asked may be what it fails on
      window.history.replaceState(null, '', at('/'));
      window.location.assign(at('/'));
    };
    return (
      <Page>
        <Typography variant="h1">{unloaded ? t`This view could not be loaded` : t`This view failed`}</Typography>
        <Alert severity={unloaded ? 'warning' : 'error'}>
          {unloaded
            ? away
              ? t`The server still does not answer, or there is no network. What you typed is kept.`
              : t`The server does not answer, or there is no network. What you typed is kept.`
            : t`${error.message} Nothing that is saved was changed.`}
        </Alert>
        <Quick>
          <Button variant="contained" onClick={() => void again()}>
            {t`Try again`}
          </Button>
          {!unloaded && <Button onClick={anew}>{t`Start over on the bench`}</Button>}
        </Quick>
      </Page>
    );
  }
}

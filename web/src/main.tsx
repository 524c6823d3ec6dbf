import './i18n'; // before all that says something
import createCache from '@emotion/cache';
import { CacheProvider } from '@emotion/react';
import '@fontsource/source-sans-3/latin-400.css';
import '@fontsource/source-sans-3/latin-600.css';
import '@fontsource/source-sans-3/latin-ext-400.css';
import '@fontsource/source-sans-3/latin-ext-600.css';
import { i18n } from '@lingui/core';
import { I18nProvider } from '@lingui/react';
import CssBaseline from '@mui/material/CssBaseline';
import GlobalStyles from '@mui/material/GlobalStyles';
import { ThemeProvider } from '@mui/material/styles';
import { MutationCache, QueryCache, QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { BrowserRouter } from 'react-router';
import './catalogue/who'; // who changes something is sent from the first request on
import { Refused } from './api';
import { base } from './base';
import { App } from './shell/App';
import { keepFocus } from './shell/focus';
import './theme/drawing.css';
import './theme/print.css';
import { inkOnPaper, theme } from './theme/theme';

// Styles made at run time carry the page's nonce.
const meta = document.querySelector<HTMLMetaElement>('meta[property="csp-nonce"]');
const cache = createCache({ key: 'nx', nonce: meta?.nonce, prepend: true });

// Whose session is over is asked at the door again.
const over = (e: Error) => {
  if (e instanceof Refused && e.problem.status === 401) void queries.invalidateQueries({ queryKey: ['me'] });
};
const unanswered = (e: Error | null) => e instanceof Refused && e.problem.status === 0;
const queries: QueryClient = new QueryClient({
  queryCache: new QueryCache({ onError: over }),
  mutationCache: new MutationCache({ onError: over }),
  // Without a network a question fails and says so, instead of waiting for ever; it is asked again until somebody answers.
  defaultOptions: {
    queries: {
      retry: false,
      refetchOnWindowFocus: false,
      staleTime: 30_000,
      networkMode: 'always',
      refetchOnReconnect: 'always',
      refetchInterval: (q) => (unanswered(q.state.error) ? 3000 : false),
    },
    mutations: { networkMode: 'always' },
  },
});

keepFocus();
createRoot(document.getElementById('root')!).render(
  <StrictMode>
    <I18nProvider i18n={i18n}>
      <CacheProvider value={cache}>
        <ThemeProvider theme={theme} defaultMode="system" noSsr>
          <CssBaseline enableColorScheme />
          <GlobalStyles styles={inkOnPaper} />
          <QueryClientProvider client={queries}>
            <BrowserRouter basename={base}>
              <App />
            </BrowserRouter>
          </QueryClientProvider>
        </ThemeProvider>
      </CacheProvider>
    </I18nProvider>
  </StrictMode>,
);

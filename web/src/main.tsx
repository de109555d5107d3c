import '@fontsource-variable/atkinson-hyperlegible-next';
import '@fontsource-variable/atkinson-hyperlegible-mono';
import '@fontsource-variable/bricolage-grotesque';
import './look/look.scss';
import { QueryClientProvider } from '@tanstack/react-query';
import { StrictMode, startTransition } from 'react';
import { createRoot } from 'react-dom/client';
import { BrowserRouter } from 'react-router';
import { Problem } from './api/client';
import { App } from './app/App';
import { tellCutText } from './shell/cutText';
import { keepFocus } from './shell/keptFocus';
import { Queries } from './shell/queries';
import { keepUnfinished } from './shell/unfinished';

const queries = new Queries({
  staleTime: 10_000,
  retry: (failures, error) =>
    failures < 2 && error instanceof Problem && [0, 502, 503].includes(error.view.status),
});

const root = document.getElementById('root');
if (root !== null) {
  const drawn = createRoot(root);
  // In small pieces, so that the page answers while it is drawn.
  startTransition(() =>
    drawn.render(
      <StrictMode>
        <QueryClientProvider client={queries}>
          <BrowserRouter>
            <App />
          </BrowserRouter>
        </QueryClientProvider>
      </StrictMode>,
    ),
  );
}

keepFocus(document);
keepUnfinished(document);
tellCutText(document);

// What the browser has kept of a page that was left is read anew.
window.addEventListener('pageshow', (event) => {
  if (event.persisted) {
    window.location.reload();
  }
});

// The network is back: everything is asked anew.
window.addEventListener('online', () => void queries.invalidateQueries());

// Keeps the portal's own files, so that it opens without network; no answer of the server is kept.
if (import.meta.env.PROD && 'serviceWorker' in navigator) {
  window.addEventListener('load', () => {
    navigator.serviceWorker.register('/worker.js').catch(() => {
      // A browser that allows none works as before.
    });
  });
}

import { lazy, Suspense, useLayoutEffect } from 'react';
import { Navigate, Route, Routes, useLocation } from 'react-router';
import { FrontPage } from '../portal/FrontPage';
import { GoPage } from '../portal/GoPage';
import { PasswordAgain } from '../shell/PasswordAgain';
import { Said } from '../shell/said';
import { hasDesk, SessionGate, useSession } from '../shell/session';
import { Loading } from '../shell/states';
import { words } from '../words/portal';

// What is not the front page comes when it is wanted, so that the front page comes first.
const Desk = lazy(() => import('../desk/Desk').then((part) => ({ default: part.Desk })));
const SignIn = lazy(() =>
  import('../signon/SignInPage').then((part) => ({ default: part.SignInPage })),
);
const Welcome = lazy(() =>
  import('../signon/WelcomePage').then((part) => ({ default: part.WelcomePage })),
);
const beside = (page: keyof typeof import('./Beside')) =>
  lazy(() => import('./Beside').then((part) => ({ default: part[page] })));
const BESIDE = {
  '/ask': beside('AskPage'),
  '/ask/many': beside('AskManyPage'),
  '/ask/:id': beside('AskOnePage'),
  '/requests': beside('MyRequestsPage'),
  '/holdings': beside('MyHoldingsPage'),
  '/suggest': beside('SuggestPage'),
  '/me': beside('MePage'),
  '/closed/:tile': beside('ClosedPage'),
};

export function App() {
  return (
    <>
      <Said />
      <Routes>
        <Route
          path="/sign-in"
          element={
            <Suspense fallback={<Loading what={words.product} />}>
              <SignIn />
            </Suspense>
          }
        />
        <Route
          path="/welcome"
          element={
            <Suspense fallback={<Loading what={words.product} />}>
              <Welcome />
            </Suspense>
          }
        />
        <Route
          path="/*"
          element={
            <SessionGate>
              <PasswordAgain>
                <Inside />
              </PasswordAgain>
            </SessionGate>
          }
        />
      </Routes>
    </>
  );
}

function Inside() {
  const { signed } = useSession();
  const { pathname } = useLocation();
  // Until the page is there that gives itself a title, and where none comes.
  // biome-ignore lint/correctness/useExhaustiveDependencies: each address begins without one
  useLayoutEffect(() => {
    document.title = words.product;
  }, [pathname]);
  return (
    <Suspense fallback={<Loading what={words.product} />}>
      <Routes>
        <Route path="/" element={<FrontPage />} />
        <Route path="/go/:tile" element={<GoPage />} />
        {Object.entries(BESIDE).map(([path, Page]) => (
          <Route key={path} path={path} element={<Page />} />
        ))}
        {hasDesk(signed) && <Route path="/desk/*" element={<Desk />} />}
        <Route path="*" element={<Navigate to="/" replace />} />
      </Routes>
    </Suspense>
  );
}

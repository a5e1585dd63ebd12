import './first-frame';
import { fontReady } from '@sorvik/view/measure-text';
import { lazy, StrictMode, Suspense } from 'react';
import { createRoot } from 'react-dom/client';
import { Provider } from 'react-redux';
import { BrowserRouter, Route, Routes } from 'react-router';
import { makeStore, useAppSelector } from './app/store';
import { applyPreferredGround } from './app/theme';
import { Show } from './show/Show';
import { Guard } from './ui/Guard';
import { keepFocus } from './ui/keep-focus';
import { tellCut } from './ui/tell-cut';
import './theme/theme.scss';
import { english } from '@sorvik/core/messages/locale';
import { say } from './ui/say';

const Home = lazy(() => import('./home/Home').then(({ Home }) => ({ default: Home })));
const Bench = lazy(() => import('./bench/Bench').then(({ Bench }) => ({ default: Bench })));
const DatasetPage = lazy(() =>
  import('./dataset/DatasetPage').then(({ DatasetPage }) => ({ default: DatasetPage })),
);
const RefreshPage = lazy(() =>
  import('./dataset/RefreshPage').then(({ RefreshPage }) => ({ default: RefreshPage })),
);
const StartPage = lazy(() => import('./start/StartPage').then(({ StartPage }) => ({ default: StartPage })));
const Databases = lazy(() =>
  import('./databases/Databases').then(({ Databases }) => ({ default: Databases })),
);
const DatabasePage = lazy(() =>
  import('./databases/DatabasePage').then(({ DatabasePage }) => ({ default: DatabasePage })),
);
const People = lazy(() => import('./people/People').then(({ People }) => ({ default: People })));
const SignIn = lazy(() => import('./people/SignIn').then(({ SignIn }) => ({ default: SignIn })));
const Invitation = lazy(() =>
  import('./people/Invitation').then(({ Invitation }) => ({ default: Invitation })),
);
const SignedIn = lazy(() => import('./people/SignedIn').then(({ SignedIn }) => ({ default: SignedIn })));
const FollowLink = lazy(() =>
  import('./people/FollowLink').then(({ FollowLink }) => ({ default: FollowLink })),
);
const Lost = lazy(() => import('./home/Lost').then(({ Lost }) => ({ default: Lost })));

applyPreferredGround();
keepFocus();
tellCut();
const store = makeStore();

/** The pages; where nobody is signed in, the way in. */
function Pages() {
  const closed = useAppSelector((state) => state.door.closed);
  if (closed) return <SignIn />;
  return (
    <Routes>
      <Route path="/" element={<Home />} />
      <Route path="/people" element={<People />} />
      <Route path="/invitation" element={<Invitation />} />
      <Route path="/signed-in" element={<SignedIn />} />
      <Route path="/link" element={<FollowLink />} />
      <Route path="/boards/:id" element={<Bench />} />
      <Route path="/show/:id" element={<Show />} />
      <Route path="/show/:id/draft" element={<Show draft />} />
      <Route path="/datasets/:id" element={<DatasetPage />} />
      <Route path="/datasets/:id/refresh" element={<RefreshPage />} />
      <Route path="/datasets/:id/new-board" element={<StartPage />} />
      <Route path="/databases" element={<Databases />} />
      <Route path="/databases/:id" element={<DatabasePage />} />
      <Route path="*" element={<Lost />} />
    </Routes>
  );
}

function App() {
  return (
    <Provider store={store}>
      <BrowserRouter>
        <Suspense fallback={<p className="sv-loading">{say(english, 'loading')}</p>}>
          <Pages />
        </Suspense>
      </BrowserRouter>
    </Provider>
  );
}

void fontReady().then(() => {
  createRoot(document.getElementById('root')!).render(
    <StrictMode>
      <Guard what={say(english, 'guard.page')}>
        <App />
      </Guard>
    </StrictMode>,
  );
});

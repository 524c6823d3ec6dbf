import Button from '@mui/material/Button';
import { useColorScheme } from '@mui/material/styles';
import { lazy, Suspense, useEffect, useRef, useState } from 'react';
import { Link, NavLink, Route, Routes, useLocation, useNavigate } from 'react-router';
import { DeskProvider, useDesk } from '../state/desk';
import { Bench } from '../bench/Bench';
import { MatrixSheet } from '../matrix/MatrixSheet';
import { PolicySheet } from '../policy/PolicySheet';
import { SavedSheet } from '../saved/SavedSheet';
import { NoticeProvider } from './notice';
import { StepsSheet } from '../steps/StepsSheet';
import { TemplateSheet } from '../template/TemplateSheet';
import { ErrorBoundary } from './ErrorBoundary';
import { Help } from './Help';
import { focusPick, useKeys } from '../state/commands';

const WallSheet = lazy(() => import('../wall/WallSheet').then((m) => ({ default: m.WallSheet })));
const CatalogueSheet = lazy(() => import('../catalogue/CatalogueSheet'));

export function App() {
  return (
    <DeskProvider>
      <NoticeProvider>
        <Shell />
      </NoticeProvider>
    </DeskProvider>
  );
}

const views = [
  ['/', 'Bench', 'e'],
  ['/wall', 'Wall', 'l'],
  ['/template', 'Template', 't'],
  ['/steps', 'Steps', 's'],
  ['/matrix', 'Matrix', 'a'],
  ['/catalogue', 'Catalogue', 'k'],
  ['/policy', 'Policy', 'o'],
  ['/saved', 'Saved', 'v'],
] as const;

function Shell() {
  const { units, toggleUnits, undo } = useDesk();
  const { mode, systemMode, setMode } = useColorScheme();
  const [help, setHelp] = useState(false);
  const go = useNavigate();
  const { search, pathname } = useLocation();
  const dark = (mode === 'system' ? systemMode : mode) === 'dark';

  const bench = (then: string) => () => {
    if (pathname === '/') return focusPick(then);
    void go({ pathname: '/', search });
    setTimeout(() => focusPick(then));
  };
  useKeys({
    '?': () => setHelp(true),
    u: toggleUnits,
    z: undo,
    d: bench('displays'),
    b: bench('brackets'),
    w: bench('wall'),
    h: bench('height'),
    f: bench('figures'),
    g: () => document.querySelector<HTMLElement>('.finding')?.focus(),
    e: () => void go({ pathname: '/', search }),
    l: () => void go({ pathname: '/wall', search }),
    t: () => void go({ pathname: '/template', search }),
    s: () => void go({ pathname: '/steps', search }),
    a: () => void go({ pathname: '/matrix', search }),
    k: () => void go({ pathname: '/catalogue', search }),
    o: () => void go({ pathname: '/policy', search }),
    v: () => void go({ pathname: '/saved', search }),
  }, 0);
  useEffect(() => {
    const press = (e: KeyboardEvent) => {
      if (e.key === 'Escape' && document.activeElement instanceof HTMLElement && !document.querySelector('[role="dialog"]')) document.activeElement.blur();
    };
    window.addEventListener('keydown', press);
    return () => window.removeEventListener('keydown', press);
  });

  // A view that does not name itself by what is on it is named by its tab; the keyboard goes
  // on from the view's head, not from the tab that was pressed.
  const came = useRef(pathname);
  useEffect(() => {
    const view = views.find(([to]) => to !== '/' && to !== '/wall' && pathname.startsWith(to));
    if (view) document.title = `${view[1]} – Nexufix`;
    if (came.current === pathname) return;
    came.current = pathname;
    let timer = 0;
    const arrive = (tries: number) => {
      const here = document.activeElement;
      if (here && here !== document.body && !here.closest('nav, header')) return; // somebody is at work already
      const head = document.querySelector<HTMLElement>('main h1, .wall-head h1');
      if (!head && tries > 0) timer = window.setTimeout(() => arrive(tries - 1), 50); // its figures are on their way
      head?.setAttribute('tabindex', '-1');
      head?.focus({ preventScroll: true });
    };
    arrive(60);
    return () => window.clearTimeout(timer);
  }, [pathname]);

  return (
    <div className="shell">
      <a className="skip" href="#board">
        Skip to the drawing
      </a>
      <header className="bar">
        <Link className="brand" to={{ pathname: '/', search }}>
          <img src="/assets/icon.svg" alt="" />
          Nexufix
        </Link>
        <nav aria-label="Views">
          {views.map(([to, name]) => (
            <NavLink key={to} className="navlink" end={to !== '/catalogue'} to={{ pathname: to, search }}>
              {name}
            </NavLink>
          ))}
        </nav>
        <span className="grow" />
        <Button size="small" color="inherit" onClick={toggleUnits} title="Millimetres or inches (u)" data-units={units}>
          {units === 'mm' ? 'Show inches' : 'Show millimetres'}
        </Button>
        <Button size="small" color="inherit" onClick={() => setMode(dark ? 'light' : 'dark')} title="Light or dark">
          {dark ? 'Go light' : 'Go dark'}
        </Button>
        <Button size="small" color="inherit" onClick={() => setHelp(true)} title="Keys and words (?)">
          Help <kbd>?</kbd>
        </Button>
      </header>
      <ErrorBoundary key={pathname}>
      <Routes>
        <Route path="/" element={<Bench />} />
        <Route
          path="/wall"
          element={
            <Suspense fallback={<Loading />}>
              <WallSheet />
            </Suspense>
          }
        />
        <Route path="/template" element={<TemplateSheet />} />
        <Route path="/steps" element={<StepsSheet />} />
        <Route path="/matrix" element={<MatrixSheet />} />
        <Route
          path="/catalogue/*"
          element={
            <Suspense fallback={<Loading />}>
              <CatalogueSheet />
            </Suspense>
          }
        />
        <Route path="/policy" element={<PolicySheet />} />
        <Route path="/saved" element={<SavedSheet />} />
        <Route
          path="*"
          element={
            <main className="sheet">
              <p>There is nothing at this address.</p>
              <Link to="/">To the bench</Link>
            </main>
          }
        />
      </Routes>
      </ErrorBoundary>
      <Help open={help} onClose={() => setHelp(false)} />
    </div>
  );
}

function Loading() {
  return (
    <main className="sheet">
      <p role="status" className="hint">
        Loading…
      </p>
    </main>
  );
}

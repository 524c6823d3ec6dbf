import { plural, t } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import Button from '@mui/material/Button';
import LinearProgress from '@mui/material/LinearProgress';
import { styled, useColorScheme } from '@mui/material/styles';
import Typography from '@mui/material/Typography';
import { useQuery } from '@tanstack/react-query';
import { lazy, Suspense, useEffect, useRef, useState } from 'react';
import { Link, Navigate, NavLink, Route, Routes, useLocation, useNavigate } from 'react-router';
import { at } from '../base';
import { within } from '../words';
import { Bench } from '../bench/Bench';
import { Grow, Main, Page } from '../parts/Page';
import { may, useMe } from '../people/me';
import { useLive } from '../review/live';
import { asked, collapsed } from '../review/parts';
import { Go } from '../parts/Press';
import { focusPick, useCommands, type Command } from '../state/commands';
import { arrived, isBench, toggleUnits, undo, useSearch, useSubject, useUnits } from '../state/workspace';
import { ErrorBoundary } from './ErrorBoundary';
import { screen } from '../parts/again';
import { toTheView } from './focus';
import { NoticeProvider } from './notice';

const WallSheet = screen(() => import('../wall/WallSheet').then((m) => m.WallSheet));
const TemplateSheet = screen(() => import('../template/TemplateSheet').then((m) => m.TemplateSheet));
const StepsSheet = screen(() => import('../steps/StepsSheet').then((m) => m.StepsSheet));
const MatrixSheet = screen(() => import('../matrix/MatrixSheet').then((m) => m.MatrixSheet));
const PolicySheet = screen(() => import('../policy/PolicySheet').then((m) => m.PolicySheet));
const JobsSheet = screen(() => import('../jobs/JobsSheet').then((m) => m.JobsSheet));
const Help = lazy(() => import('./Help').then((m) => ({ default: m.Help })));
const SignIn = lazy(() => import('../people/SignIn').then((m) => ({ default: m.SignIn })));
const First = lazy(() => import('../people/First').then((m) => ({ default: m.First })));
const PeopleSheet = screen(() => import('../people/PeopleSheet').then((m) => m.PeopleSheet));
const DeskSheet = screen(() => import('../review/DeskSheet').then((m) => m.DeskSheet));
const FamilySheet = screen(() => import('../review/FamilySheet').then((m) => m.FamilySheet));
const RangeSheet = screen(() => import('../review/RangeSheet').then((m) => m.RangeSheet));
const ReviewSheet = screen(() => import('../review/ReviewSheet').then((m) => m.ReviewSheet));
const CatalogueSheet = screen(() => import('../catalogue/CatalogueSheet').then((m) => m.CatalogueSheet));

export function App() {
  return (
    <NoticeProvider>
      <Door />
    </NoticeProvider>
  );
}

/** Lets in who is signed in; at a desk of one, everybody. */
function Door() {
  const me = useMe();
  const outside = me.data && !me.data.alone && !me.data.id;
  if (me.data && (outside || me.data.given || me.data.noSecond))
    return (
      <Main>
        <Suspense fallback={<Loading />}>{outside ? <SignIn me={me.data} /> : <First me={me.data} />}</Suspense>
      </Main>
    );
  if (me.isLoading)
    return (
      <Main>
        <Loading />
      </Main>
    );
  return <Shell />; // a server that is away is said where it is asked
}

const views = [
  ['/', t`Bench`, 'e'],
  ['/wall', t`Wall`, 'l'],
  ['/template', t`Template`, 't'],
  ['/steps', t`Steps`, 's'],
  ['/matrix', t`Matrix`, 'a'],
  ['/catalogue', t`Catalogue`, 'k'],
  ['/policy', t`Policy`, 'o'],
  ['/jobs', t`Jobs`, 'v'],
] as const;

const Whole = styled('div')(({ theme }) => ({
  display: 'flex',
  flexDirection: 'column',
  height: '100%',
  minHeight: 0,
  [theme.breakpoints.down('md')]: { height: 'auto', minHeight: '100%' },
}));

const Bar = styled('header')(({ theme }) => ({
  display: 'flex',
  flexWrap: 'wrap',
  alignItems: 'center',
  gap: '2px 6px',
  padding: '4px 16px',
  borderBottom: `1px solid ${theme.vars!.palette.divider}`,
  background: theme.vars!.palette.background.paper,
  '& nav': { display: 'flex', flexWrap: 'wrap' },
  '& .foldable': { display: 'contents' },
  '& .fold': { display: 'none' },
  '& .brand': { color: 'inherit', textDecoration: 'none', fontWeight: 600, letterSpacing: '0.04em', fontSize: 17, marginRight: 14, display: 'flex', alignItems: 'center', gap: 8 },
  '& .navlink': { color: theme.vars!.palette.text.secondary, textDecoration: 'none', padding: '5px 10px', borderBottom: '2px solid transparent' },
  '& .navlink.active': { color: theme.vars!.palette.text.primary, borderColor: theme.vars!.palette.primary.main, fontWeight: 600 },
  '& a:focus-visible': { outline: `2px solid ${theme.vars!.palette.primary.main}` },
  [theme.breakpoints.down('md')]: { padding: '4px 8px', '& .brand': { marginRight: 4 }, '& .navlink': { padding: '5px 7px' } },
  '@media (max-width: 700px)': {
    '& .brand': { marginRight: 'auto' },
    '& .fold': { display: 'inline-flex' },
    '& .foldable': { display: 'none' },
    '& .foldable.open > span:empty': { display: 'none' },
    '& .foldable.open': { display: 'flex', flexWrap: 'wrap', flexBasis: '100%', alignItems: 'center', gap: '2px 6px' },
  },
  '@media (pointer: coarse)': { '& .navlink': { minHeight: 44, display: 'flex', alignItems: 'center' } },
}));

const Skip = styled('a')(({ theme }) => ({
  position: 'absolute',
  left: -999,
  '&:focus': { left: 8, top: 8, zIndex: 10, background: theme.vars!.palette.background.paper, padding: '6px 10px' },
}));

/** The keyboard goes on from the head of a view, once it is there, and not from what was pressed. */
function useArrival(pathname: string) {
  const came = useRef(pathname);
  useEffect(() => {
    const view = views.find(([to]) => to !== '/' && to !== '/wall' && pathname.startsWith(to));
    if (view) document.title = `${view[1]} – Nexufix`; // the others are named by what is on them
    if (came.current === pathname) return;
    came.current = pathname;
    let timer = 0;
    const stop = () => window.clearTimeout(timer); // somebody goes on by hand
    // Its figures are on their way, and with them a head may be put in the place of another.
    const arrive = (tries: number) => {
      const here = document.activeElement;
      const head = document.querySelector<HTMLElement>('main h1');
      if (here && here !== document.body && here !== head && !here.matches('main') && !here.closest('nav, header')) return; // somebody is at work already
      if (head && head !== here) {
        head.setAttribute('tabindex', '-1');
        head.focus({ preventScroll: true });
      }
      if (tries > 0) timer = window.setTimeout(() => arrive(tries - 1), 50);
    };
    arrive(60);
    window.addEventListener('keydown', stop);
    window.addEventListener('pointerdown', stop);
    return () => {
      stop();
      window.removeEventListener('keydown', stop);
      window.removeEventListener('pointerdown', stop);
    };
  }, [pathname]);
}

function Shell() {
  const units = useUnits();
  const search = useSearch();
  const me = useMe().data;
  const { mode, systemMode, setMode } = useColorScheme();
  const [unfolded, setUnfolded] = useState(false); // what a telephone has no room for
  const [help, setHelp] = useState<boolean>(); // undefined: not asked for yet
  const go = useNavigate();
  const { pathname, key } = useLocation();
  const dark = (mode === 'system' ? systemMode : mode) === 'dark';

  const bench = (pick: string) => () => {
    if (pathname === '/') return focusPick(pick);
    void go({ pathname: '/', search });
    setTimeout(() => focusPick(pick));
  };
  const onBench: Command[] = [
    { key: 'd', does: t`pick or type in the display`, run: bench('displays') },
    { key: 'b', does: t`pick the bracket`, run: bench('brackets') },
    { key: 'w', does: t`wall, height of the centre`, run: bench('wall') },
    { key: 'h', does: '', run: bench('height') },
    { key: 'f', does: t`figures: change one to see what follows`, run: bench('figures') },
  ];
  useCommands(
    t`Everywhere`,
    [
      ...onBench,
      ...views.map(([to, , letter], i) => ({ key: letter, does: i === 0 ? views.map(([, n]) => within(n)).join(', ') : '', run: () => void go({ pathname: to, search: isBench(to) ? search : '' }) })),
      { key: 'r', does: me?.id ? t`desk: reviews` : '', run: () => void (me?.id && go('/desk')) },
      { key: 'u', does: t`millimetres or inches`, run: toggleUnits },
      { key: 'z', does: t`undo`, run: () => isBench(pathname) && undo() }, // what is not seen is not undone
      { key: '?', does: t`this help`, run: () => setHelp(true) },
    ],
    0,
  );
  useEffect(() => {
    const press = (e: KeyboardEvent) => {
      if (e.key === 'Escape' && !document.querySelector('[role="dialog"]')) toTheView();
    };
    window.addEventListener('keydown', press);
    return () => window.removeEventListener('keydown', press);
  }, []);
  useEffect(() => arrived(), [key]);
  useArrival(pathname);
  const subject = useSubject();
  const here = useLive(isBench(pathname) ? subject : pathname);

  return (
    <Whole>
      <Skip
        className="skip"
        href="#content"
        onClick={(e) => {
          e.preventDefault();
          toTheView();
        }}
      >
        {t`Skip to the contents`}
      </Skip>
      <Bar>
        <Link className="brand" to={{ pathname: '/', search }}>
          <img src={at('/assets/icon.svg')} alt="" width={20} height={20} />
          Nexufix
        </Link>
        <Button className="fold" color="inherit" aria-expanded={unfolded} aria-controls="views" onClick={() => setUnfolded(!unfolded)}>
          {t`Menu`}
        </Button>
        <div id="views" className={unfolded ? 'foldable open' : 'foldable'} onClick={(e) => (e.target as Element).closest('a') && setUnfolded(false)}>
          <nav aria-label={t`Views`}>
            {views.map(([to, name]) => (
              <NavLink key={to} className="navlink" end={to !== '/catalogue'} to={{ pathname: to, search: isBench(to) ? search : '' }}>
                {name}
              </NavLink>
            ))}
          </nav>
          <Grow />
          {here.length > 0 && (
            <span className="here" role="status">
              {plural(here.length, { one: `${here.join(', ')} is here too`, other: `${here.join(', ')} are here too` })}
            </span>
          )}
          {me?.id && <DeskLink />}
          <Button color="inherit" onClick={toggleUnits} title={t`Millimetres or inches (u)`} data-units={units}>
            {units === 'mm' ? t`Show inches` : t`Show millimetres`}
          </Button>
          <Button color="inherit" onClick={() => setMode(dark ? 'light' : 'dark')} title={t`Light or dark`}>
            {dark ? t`Go light` : t`Go dark`}
          </Button>
          <NavLink className="navlink" to="/people">
            {me && !me.alone ? me.name : t`People`}
          </NavLink>
          <Button color="inherit" onClick={() => setHelp(true)} title={t`Keys and words (?)`}>
            <Trans>
              Help&nbsp;<kbd>?</kbd>
            </Trans>
          </Button>
        </div>
      </Bar>
      <Main id="content">
        <ErrorBoundary key={pathname}>
          <Suspense fallback={<Loading />}>
            <Routes>
              <Route path="/" element={<Bench />} />
              <Route path="/wall" element={<WallSheet />} />
              <Route path="/template" element={<TemplateSheet />} />
              <Route path="/steps" element={<StepsSheet />} />
              <Route path="/matrix" element={<MatrixSheet />} />
              <Route path="/catalogue/*" element={<CatalogueSheet />} />
              <Route path="/policy" element={<PolicySheet />} />
              <Route path="/jobs" element={<JobsSheet />} />
              <Route path="/saved" element={<Navigate to="/jobs" replace />} />
              <Route path="/desk" element={<DeskSheet />} />
              <Route path="/reviews/range" element={<RangeSheet />} />
              <Route path="/reviews/family/:key" element={<FamilySheet />} />
              <Route path="/reviews/:id" element={<ReviewSheet />} />
              <Route path="/people" element={<PeopleSheet />} />
              <Route path="*" element={<Nowhere />} />
            </Routes>
          </Suspense>
        </ErrorBoundary>
      </Main>
      {help !== undefined && (
        <Suspense>
          <Help open={help} onClose={() => setHelp(false)} />
        </Suspense>
      )}
    </Whole>
  );
}

/** To the desk, with how much waits there. */
function DeskLink() {
  const d = useQuery(asked.desk).data;
  const me = useMe().data;
  const n = d ? collapsed(d.waiting).length + (may(me, 'approver') ? d.restored.length : 0) + d.sent_back.length + d.stale.filter((a) => a.mine).length : 0;
  return (
    <NavLink className="navlink" to="/desk">
      {t`Desk`}
      {n > 0 && ` (${n})`}
    </NavLink>
  );
}

function Nowhere() {
  useEffect(() => {
    document.title = t`No such address – Nexufix`;
  }, []);
  return (
    <Page>
      <Typography variant="h1">{t`There is nothing at this address`}</Typography>
      <p>
        <Go to="/">{t`To the bench`}</Go>
      </p>
    </Page>
  );
}

function Loading() {
  return (
    <Page>
      <LinearProgress aria-label={t`Loading`} />
    </Page>
  );
}

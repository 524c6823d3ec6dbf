import { t } from '@lingui/core/macro';
import LinearProgress from '@mui/material/LinearProgress';
import Link from '@mui/material/Link';
import { styled } from '@mui/material/styles';
import Typography from '@mui/material/Typography';
import { Suspense, useEffect } from 'react';
import { NavLink, Route, Routes, useLocation } from 'react-router';
import { at } from '../base';
import { Grow, Nothing, Page, Tools } from '../parts/Page';
import { Go } from '../parts/Press';
import { QuantityInput } from '../parts/QuantityField';
import { useWorkspace } from '../state/workspace';
import { screen } from '../parts/again';
import { SetAsideNotice, SetAsideSheet } from './SetAsideSheet';
import { useMe } from '../people/me';
import { useWho } from './who';

const views = [
  ['/catalogue', t`Displays`],
  ['/catalogue/brackets', t`Brackets`],
  ['/catalogue/import', t`Import`],
  ['/catalogue/history', t`History`],
] as const;

const Nav = styled('nav')(({ theme }) => ({
  display: 'flex',
  flexWrap: 'wrap',
  gap: 4,
  '& a': { color: theme.vars!.palette.text.secondary, textDecoration: 'none', padding: '4px 10px', borderBottom: '2px solid transparent' },
  '& a.active': { color: theme.vars!.palette.text.primary, borderColor: theme.vars!.palette.primary.main, fontWeight: 600 },
  '& a:focus-visible': { outline: `2px solid ${theme.vars!.palette.primary.main}` },
  '@media (pointer: coarse)': { '& a': { minHeight: 44, display: 'flex', alignItems: 'center' } },
}));

const DisplayGrid = screen(() => import('./Grids').then((m) => m.DisplayGrid));
const BracketGrid = screen(() => import('./Grids').then((m) => m.BracketGrid));
const DisplayEditor = screen(() => import('./DisplayEditor').then((m) => m.DisplayEditor));
const BracketEditor = screen(() => import('./BracketEditor').then((m) => m.BracketEditor));
const ImportSheet = screen(() => import('./ImportSheet').then((m) => m.ImportSheet));
const HistorySheet = screen(() => import('./HistorySheet').then((m) => m.HistorySheet));

/** The catalogue: what is in it, how it gets there, and what it was. */
export function CatalogueSheet() {
  const [who, setWho] = useWho();
  const me = useMe().data;
  const { units } = useWorkspace();
  const { pathname } = useLocation();
  useEffect(() => {
    const view = views.find(([to]) => to === pathname);
    if (view && view[0] !== '/catalogue') document.title = `${view[1]} – Nexufix`;
  }, [pathname]);
  return (
    <Page className={`catalogue units-${units}`} sx={{ display: 'flex', flexDirection: 'column' }}>
      <Tools className="tools">
        <Typography variant="h1">{t`Catalogue`}</Typography>
        <Nav aria-label={t`Catalogue`} className="views">
          {views.map(([to, name]) => (
            <NavLink key={to} end={to === '/catalogue'} className={to === '/catalogue' && pathname.startsWith('/catalogue/displays') ? 'active' : undefined} to={to}>
              {name}
            </NavLink>
          ))}
        </Nav>
        <Grow />
        {me?.alone && (
          <>
            <span>{t`You are`}</span>
            <QuantityInput label={t`Your name, for the history`} words width={140} maxLength={80} placeholder={t`your name`} text={who} onText={setWho} />
          </>
        )}
        <span>{t`Export`}</span>
        <Link href={at('/api/export')} download="nexufix.json">
          {t`JSON`}
        </Link>
        <Link href={at('/api/export.xlsx')} download="nexufix.xlsx">
          {t`XLSX`}
        </Link>
        <Link href={at('/api/export/displays')} download="displays.csv">
          {t`CSV`}
        </Link>
      </Tools>
      <SetAsideNotice />
      <Suspense fallback={<LinearProgress aria-label={t`Loading`} />}>
        <Routes>
          <Route path="/" element={<DisplayGrid />} />
          <Route path="/brackets" element={<BracketGrid />} />
          <Route path="/import" element={<ImportSheet />} />
          <Route path="/history" element={<HistorySheet />} />
          <Route path="/history/:kind/:id" element={<HistorySheet />} />
          <Route path="/set-aside" element={<SetAsideSheet />} />
          <Route path="/displays/:id" element={<DisplayEditor />} />
          <Route path="/brackets/:id" element={<BracketEditor />} />
          <Route
            path="*"
            element={
              <Nothing>
                <p>{t`There is nothing at this address.`}</p>
                <p>
                  <Go to="/catalogue">{t`To the displays`}</Go>
                </p>
              </Nothing>
            }
          />
        </Routes>
      </Suspense>
    </Page>
  );
}

import { NavLink, Route, Routes } from 'react-router';
import { BracketEditor } from './BracketEditor';
import { BracketGrid, DisplayGrid } from './Grids';
import { DisplayEditor } from './DisplayEditor';
import { HistorySheet } from './HistorySheet';
import { ImportSheet } from './ImportSheet';
import { SetAsideNotice, SetAsideSheet } from './SetAsideSheet';
import { useWho } from './who';
import { useDesk } from '../state/desk';

const shelves = [
  ['/catalogue', 'Displays'],
  ['/catalogue/brackets', 'Brackets'],
  ['/catalogue/import', 'Import'],
  ['/catalogue/history', 'History'],
] as const;

/** The catalogue: what is in it, how it gets there, and what it was. */
export default function CatalogueSheet() {
  const [who, setWho] = useWho();
  const { units } = useDesk();
  return (
    <main className={`sheet catalogue units-${units}`}>
      <div className="tools">
        <h1>Catalogue</h1>
        <nav aria-label="Catalogue" className="shelves">
          {shelves.map(([to, name]) => (
            <NavLink key={to} className="navlink" end to={to}>
              {name}
            </NavLink>
          ))}
        </nav>
        <span className="grow" />
        <label className="hint">
          You are{' '}
          <input className="figure-field words" style={{ width: 130 }} value={who} maxLength={80} placeholder="your name" onChange={(e) => setWho(e.target.value)} />
        </label>
        <a className="press" href="/api/export" download="nexufix.json">
          JSON
        </a>
        <a className="press" href="/api/export.xlsx" download="nexufix.xlsx">
          XLSX
        </a>
        <a className="press" href="/api/export/displays" download="displays.csv">
          CSV
        </a>
      </div>
      <SetAsideNotice />
      <Routes>
        <Route path="/" element={<DisplayGrid />} />
        <Route path="/brackets" element={<BracketGrid />} />
        <Route path="/import" element={<ImportSheet />} />
        <Route path="/history" element={<HistorySheet />} />
        <Route path="/history/:kind/:id" element={<HistorySheet />} />
        <Route path="/set-aside" element={<SetAsideSheet />} />
        <Route path="/displays/:id" element={<DisplayEditor />} />
        <Route path="/brackets/:id" element={<BracketEditor />} />
        <Route path="*" element={<p>There is nothing at this address.</p>} />
      </Routes>
    </main>
  );
}

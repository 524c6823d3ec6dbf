import Alert from '@mui/material/Alert';
import Button from '@mui/material/Button';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { useDesk } from '../state/desk';
import { nothing } from '../state/question';
import { ruleWords } from '../words';
import { useMatrix, type Matrix } from './matrix';
import { Picture, type Order } from './Picture';
import { Why, type Asked } from './Why';

/** All displays by all brackets, as a picture. */
export function MatrixSheet() {
  const { matrix, error, stopped, stop } = useMatrix();
  const [typed, setTyped] = useState('');
  const [sort, setSort] = useState<Order>('fewest');
  const [only, setOnly] = useState('');
  const [asked, setAsked] = useState<Asked>();
  const { ask } = useDesk();
  const go = useNavigate();
  const open = (row: number, column: number) => {
    const display = matrix?.head.displays[row];
    const bracket = matrix?.head.brackets[column];
    if (!display || !bracket) return;
    ask({ ...nothing, display: display.id, bracket: bracket.id });
    void go('/');
  };
  return (
    <main className="sheet matrix">
      <div className="tools">
        <h1>Matrix</h1>
        {matrix && <Summary matrix={matrix} />}
        <span className="grow" />
        <Button size="small" color="inherit" component="a" href="/api/matrix.csv" download="matrix.csv">
          CSV
        </Button>
        <Button size="small" color="inherit" component="a" href="/api/matrix.xlsx" download="matrix.xlsx">
          XLSX
        </Button>
      </div>
      {error && <Alert severity="error">{error.message}</Alert>}
      {matrix && !matrix.end && !error && (
        <p role="status" className="hint">
          {stopped ? 'Stopped. ' : 'Judging: '}
          {matrix.judged} of {matrix.head.displays.length} displays{' '}
          {!stopped && (
            <button type="button" className="press" onClick={stop}>
              Stop
            </button>
          )}
        </p>
      )}
      {matrix && (
        <>
          <div className="tools">
            <input className="figure-field words" style={{ width: 190 }} placeholder="Only displays named…" aria-label="Only displays named" value={typed} onChange={(e) => setTyped(e.target.value)} />
            <select className="figure-field words" style={{ width: 190 }} aria-label="Order of the displays" value={sort} onChange={(e) => setSort(e.target.value as Order)}>
              <option value="fewest">Fewest brackets first</option>
              <option value="reason">Grouped by reason</option>
              <option value="name">By name</option>
            </select>
            <select className="figure-field words" style={{ width: 230 }} aria-label="Which displays" value={only} onChange={(e) => setOnly(e.target.value)}>
              <option value="">All displays</option>
              <option value="none">Those that nothing fits</option>
              <option value="near">Those that miss by one thing</option>
              <option value="one">Those that one bracket fits</option>
              <option value="left">Those the three leave</option>
              {matrix.head.rules.filter(Boolean).map((r) => (
                <option key={r} value={'rule:' + r}>
                  Held up by: {(ruleWords[r] ?? r).toLowerCase()}
                </option>
              ))}
            </select>
          </div>
          <div className="beside">
            <Picture matrix={matrix} typed={typed} sort={sort} only={only} open={open} why={setAsked} />
            {asked && <Why matrix={matrix} asked={asked} open={open} close={() => setAsked(undefined)} />}
          </div>
        </>
      )}
    </main>
  );
}

/** Which three brackets take most, and what is left. */
function Summary({ matrix }: { matrix: Matrix }) {
  if (!matrix.end) return null;
  const { cover, left } = matrix.end;
  const all = matrix.head.displays.length;
  if (cover.length === 0) return <span>No bracket takes any of the {all} displays.</span>;
  return (
    <span data-cover={cover.length}>
      <b>{cover.map((i) => matrix.head.brackets[i]?.name).join(', ')}</b> take {all - left.length} of {all} displays; {left.length} are left.{matrix.end.left_out && ` ${matrix.end.left_out}`}
    </span>
  );
}

import type { BenchAnswer } from '../api';
import { ruleWords, Shape, verdictWords } from '../words';

/** The other brackets for this display, the best first. */
export function Strip({ judged, onPick }: { judged: BenchAnswer; onPick: (id: string) => void }) {
  return (
    <nav className="strip" aria-label="Brackets for this display, the best first">
      <div className="name">
        Brackets,
        <br />
        best first
        <br />
        <kbd>n</kbd> <kbd>p</kbd>
      </div>
      {judged.others.map((o) => (
        <button
          key={o.id}
          type="button"
          aria-pressed={o.id === judged.bracket.id}
          data-bracket={o.id}
          title={o.why || verdictWords[o.verdict]}
          onClick={() => onPick(o.id)}
        >
          <b>
            <Shape of={o.verdict} />
            {o.name}
          </b>
          <small>{verdictWords[o.verdict]}</small>
          <small>{o.verdict === 'does_not_fit' || !o.bolts ? o.rules.map((r) => (ruleWords[r] ?? r).toLowerCase()).join(', ') : o.bolts}</small>
        </button>
      ))}
    </nav>
  );
}

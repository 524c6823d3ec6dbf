import { useDesk } from '../state/desk';
import { idOf, otherBracket, otherDisplay, siteCenter, type Turn, type Wall } from '../state/question';
import { wallWords } from '../words';
import type { BenchAnswer } from '../api';
import { FigureField } from '../parts/QuantityField';
import { Picker } from '../parts/Picker';

/** The question, as a sentence whose nouns are picked. */
export function Sentence({ judged, centerError }: { judged?: BenchAnswer; centerError?: string }) {
  const { asking, ask, units } = useDesk();
  const known = asking.typed ?? (judged?.display.id === asking.display ? judged.display : undefined);
  const display = known ? [known.maker, known.model].filter(Boolean).join(' ') : asking.display;
  const bracket = asking.bracket || (judged && (asking.display || asking.typed) ? judged.bracket.id : '');
  const bracketName = judged?.bracket.id === bracket ? (judged.bracket.name ?? bracket) : bracket;
  const walls = judged ? Object.keys(wallWords).filter((w) => judged.walls.includes(w) || w === asking.wall) : Object.keys(wallWords);
  return (
    <div className="sentence" role="search" aria-label="What goes where">
      <span>Put</span>
      <Picker
        kind="displays"
        label="a display"
        className="pick wide"
        id={asking.typed ? asking.typed.id : asking.display}
        name={display}
        units={units}
        autoFocus={!asking.display && !asking.typed}
        onPick={(id) => ask((a) => otherDisplay(a, { display: id }))}
        onTypeIn={(name) => ask((a) => otherDisplay(a, { typed: { id: idOf(name), model: name } }))}
      />
      <span>on</span>
      <Picker
        kind="brackets"
        label="the best bracket"
        className="pick"
        id={bracket}
        name={bracketName}
        units={units}
        onPick={(id) => ask((a) => otherBracket(a, id))}
      />
      <span>on</span>
      <select className="noun" data-pick="wall" aria-label="Wall" value={asking.wall} onChange={(e) => ask({ wall: e.target.value as Wall })}>
        {walls.map((w) => (
          <option key={w} value={w}>
            {wallWords[w]}
            {judged && !judged.walls.includes(w) ? ' (no fixing given)' : ''}
          </option>
        ))}
      </select>
      <select className="noun" aria-label="Turn" value={asking.turn} onChange={(e) => ask({ turn: Number(e.target.value) as Turn })}>
        <option value={0}>upright</option>
        <option value={90}>turned 90° clockwise</option>
        <option value={270}>turned 270° clockwise</option>
      </select>
      <span>with its centre at</span>
      <span className="noun-figure">
        <FigureField
          label="Height of the display's centre"
          value={siteCenter(asking)}
          typed={asking.center ?? undefined}
          placeholder="a height"
          step={10}
          pick="height"
          error={centerError}
          onType={(center) => ask({ center }, 'center')}
        />
      </span>
      {centerError && <span className="field-error">{centerError}</span>}
    </div>
  );
}


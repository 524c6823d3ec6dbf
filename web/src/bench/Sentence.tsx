import { styled } from '@mui/material/styles';
import type { BenchAnswer } from '../api';
import { Choice } from '../parts/Choice';
import { FieldError } from '../parts/Page';
import { Picker } from '../parts/Picker';
import { QuantityField } from '../parts/QuantityField';
import { useDesk } from '../state/desk';
import { idOf, otherBracket, otherDisplay, siteCenter, type Turn, type Wall } from '../state/question';
import { wallWords } from '../words';

const Line = styled('div')(({ theme }) => ({
  display: 'flex',
  flexWrap: 'wrap',
  alignItems: 'center',
  gap: '2px 8px',
  padding: '9px 16px 7px',
  fontSize: 19,
  '& .height': {
    width: 124,
    fontWeight: 600,
    '& .MuiInputBase-root': { color: theme.vars!.palette.primary.main, background: 'none' },
    '& input': { textAlign: 'left', padding: '2px 0 2px 4px', fontWeight: 600 },
    '& .MuiOutlinedInput-notchedOutline': { borderWidth: '0 0 1px', borderRadius: 0 },
  },
}));

/** The question, as a sentence whose nouns are picked. */
export function Sentence({ judged, centerError }: { judged?: BenchAnswer; centerError?: string }) {
  const { asking, ask, units } = useDesk();
  const known = asking.typed ?? (judged?.display.id === asking.display ? judged.display : undefined);
  const display = known ? [known.maker, known.model].filter(Boolean).join(' ') : asking.display;
  const bracket = asking.bracket || (judged && (asking.display || asking.typed) ? judged.bracket.id : '');
  const bracketName = judged?.bracket.id === bracket ? (judged.bracket.name ?? bracket) : bracket;
  const walls = judged ? Object.keys(wallWords).filter((w) => judged.walls.includes(w) || w === asking.wall) : Object.keys(wallWords);
  return (
    <Line role="search" aria-label="What goes where">
      <span>Put</span>
      <Picker
        kind="displays"
        label="a display"
        width={300}
        id={asking.typed ? asking.typed.id : asking.display}
        name={display}
        units={units}
        autoFocus={!asking.display && !asking.typed}
        onPick={(id) => ask((a) => otherDisplay(a, { display: id }))}
        onTypeIn={(name) => ask((a) => otherDisplay(a, { typed: { id: idOf(name), model: name } }))}
      />
      <span>on</span>
      <Picker kind="brackets" label="the best bracket" width={168} id={bracket} name={bracketName} units={units} onPick={(id) => ask((a) => otherBracket(a, id))} />
      <span>on</span>
      <Choice
        noun
        label="Wall"
        pick="wall"
        value={asking.wall}
        options={walls.map((w) => [w, `${wallWords[w as Wall]}${judged && !judged.walls.includes(w) ? ' (no fixing given)' : ''}`])}
        onPick={(w) => ask({ wall: w as Wall })}
      />
      <Choice
        noun
        label="Turn"
        value={asking.turn}
        options={[
          [0, 'upright'],
          [90, 'turned 90° clockwise'],
          [270, 'turned 270° clockwise'],
        ]}
        onPick={(turn) => ask({ turn: Number(turn) as Turn })}
      />
      <span>with its centre at</span>
      <span className="height">
        <QuantityField
          label="Height of the display's centre"
          of="center_mm"
          value={siteCenter(asking)}
          typed={asking.center ?? undefined}
          placeholder="a height"
          step={10}
          pick="height"
          error={centerError}
          errorAt="center-error"
          onType={(center) => ask({ center }, 'center')}
        />
      </span>
      {centerError && <FieldError id="center-error">{centerError}</FieldError>}
    </Line>
  );
}

import { t } from '@lingui/core/macro';
import { styled } from '@mui/material/styles';
import { useMemo } from 'react';
import type { BenchAnswer } from '../api';
import { Choice } from '../parts/Choice';
import { FieldError } from '../parts/Page';
import { Picker } from '../parts/Picker';
import { QuantityField } from '../parts/QuantityField';
import { ask, useWorkspace } from '../state/workspace';
import { idOf, otherBracket, otherDisplay, otherWall, siteCenter, type Turn, type Typed, type Wall } from '../state/inputs';
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

const turns = [
  [0, t`upright`],
  [90, t`turned 90° clockwise`],
  [270, t`turned 270° clockwise`],
] as const;

// They are the same at every drawing, so that pickers are not drawn again for nothing.
const pickDisplay = (id: string) => ask((a) => otherDisplay(a, { display: id }));
const typeDisplay = (name: string) => ask((a) => otherDisplay(a, { typed: { id: idOf(name), model: name } }));
const pickBracket = (id: string) => ask((a) => otherBracket(a, id));
const pickWall = (w: string) => ask((a) => otherWall(a, w as Wall));
const pickTurn = (turn: string) => ask({ turn: Number(turn) as Turn });
const typeHeight = (center: Typed | null) => ask({ center }, 'center');

/** The request, as a sentence whose nouns are picked. */
export function Sentence({ judged, centerError }: { judged?: BenchAnswer; centerError?: string }) {
  const { inputs, units } = useWorkspace();
  const known = inputs.typed ?? (judged?.display.id === inputs.display ? judged.display : undefined);
  const display = known ? [known.maker, known.model].filter(Boolean).join(' ') : inputs.display;
  const bracket = inputs.bracket || (judged && (inputs.display || inputs.typed) ? judged.bracket.id : '');
  const bracketName = judged?.bracket.id === bracket ? (judged.bracket.name ?? bracket) : bracket;
  const takes = judged?.walls.join();
  const wallOptions = useMemo(() => {
    const all = takes === undefined ? Object.keys(wallWords) : Object.keys(wallWords).filter((w) => takes.split(',').includes(w) || w === inputs.wall);
    return all.map((w) => [w, `${wallWords[w as Wall]}${takes !== undefined && !takes.split(',').includes(w) ? t` (no fixing given)` : ''}`] as const);
  }, [takes, inputs.wall]);
  return (
    <Line role="search" aria-label={t`What goes where`}>
      <span>{t({ message: 'Put', context: 'the sentence' })}</span>
      <Picker
        kind="displays"
        label={t`a display`}
        width={300}
        id={inputs.typed ? inputs.typed.id : inputs.display}
        name={display}
        units={units}
        autoFocus={!inputs.display && !inputs.typed}
        onPick={pickDisplay}
        onTypeIn={typeDisplay}
      />
      <span>{t({ message: 'on', context: 'the sentence' })}</span>
      <Picker kind="brackets" label={t`the best bracket`} width={168} id={bracket} name={bracketName} units={units} onPick={pickBracket} />
      <span>{t({ message: 'on', context: 'the sentence' })}</span>
      <Choice noun label={t`Wall`} pick="wall" value={inputs.wall} options={wallOptions} onPick={pickWall} />
      <Choice noun label={t`Turn`} value={inputs.turn} options={turns} onPick={pickTurn} />
      <span>{t`with its centre at`}</span>
      <span className="height">
        <QuantityField
          label={t`Height of the display's centre`}
          of="center_mm"
          parts={16}
          value={siteCenter(inputs)}
          typed={inputs.center ?? undefined}
          placeholder={t`a height`}
          step={10}
          pick="height"
          error={centerError}
          errorAt="center-error"
          onType={typeHeight}
        />
      </span>
      {centerError && <FieldError id="center-error">{centerError}</FieldError>}
    </Line>
  );
}

import { t } from '@lingui/core/macro';
import Button from '@mui/material/Button';
import { styled } from '@mui/material/styles';
import { useEffect, useRef } from 'react';
import { Grow, Tools } from '../parts/Page';
import { Press } from '../parts/Press';
import { ruleWords, verdictWithin, within } from '../words';
import { takes, type Cell, type Matrix } from './matrix';

const Panel = styled('section')(({ theme }) => ({
  width: 320,
  overflow: 'auto',
  padding: '0 8px',
  '&:focus-visible': { outline: `2px solid ${theme.vars!.palette.primary.main}`, outlineOffset: -2 },
  [theme.breakpoints.down('md')]: { width: 'auto' },
  '& h2': { fontSize: 16, fontWeight: 600, margin: 0 },
  '& h3': { fontSize: 14, margin: '12px 0 2px' },
  '& h4': { fontSize: 13, fontWeight: 400, color: theme.vars!.palette.text.secondary, margin: '6px 0 2px' },
  '& ul': { margin: 0, paddingLeft: 14, listStyle: 'none' },
  '& li': { margin: '2px 0' },
}));

/** What is asked about: a display, or a bracket. */
export type Asked = { display: number } | { bracket: number };

interface Near {
  at: number;
  name: string;
  cell: Cell;
}

const word = (rule: string) => within(ruleWords[rule] ?? rule);

/** Why nothing fits a display, or what a bracket misses by one thing. */
export function Why({ matrix, asked, open, close }: { matrix: Matrix; asked: Asked; open: (row: number, column: number) => void; close: () => void }) {
  const box = useRef<HTMLElement>(null);
  useEffect(() => box.current?.focus(), [asked]);
  const ofDisplay = 'display' in asked;
  const title = ofDisplay ? matrix.head.displays[asked.display]?.name : matrix.head.brackets[asked.bracket]?.name;
  const all: Near[] = ofDisplay
    ? (matrix.rows[asked.display] ?? []).map((cell, at) => ({ at, cell, name: matrix.head.brackets[at]!.name }))
    : matrix.rows.flatMap((row, at) => (row ? [{ at, cell: row[asked.bracket]!, name: matrix.head.displays[at]!.name }] : []));
  const taken = all.filter(({ cell }) => takes(cell));
  const near = all.filter(({ cell }) => cell.alone);
  const far = all.filter(({ cell }) => !takes(cell) && !cell.alone);
  const say = ofDisplay ? (taken.length === 0 ? t`No bracket takes it.` : t`${taken.length} of ${all.length} brackets take it.`) : t`It takes ${taken.length} of ${all.length} displays.`;
  const press = ({ at, name, cell }: Near, more: string) => (
    <li key={at}>
      <Press onClick={() => (ofDisplay ? open(asked.display, at) : open(at, asked.bracket))}>{name}</Press>
      {more && ` ${more}`}
      {takes(cell) && cell.spacers && t`, with spacers`}
      {takes(cell) && cell.sends && t`, parts to be sent`}
    </li>
  );
  return (
    <Panel
      ref={box}
      className="why"
      tabIndex={-1}
      aria-label={t`About ${title ?? ''}`}
      onKeyDown={(e) => {
        if (e.key !== 'Escape') return;
        e.stopPropagation(); // elsewhere it leaves a field
        close();
        document.querySelector<HTMLElement>('.picture')?.focus();
      }}
    >
      <Tools>
        <h2>{title}</h2>
        <Grow />
        <Button color="inherit" onClick={close}>
          {t`Close`}
        </Button>
      </Tools>
      <p>{say}</p>
      <Reasons
        title={near.length > 0 ? t`Misses by one thing: ${near.length}` : t`Nothing is missed by one thing alone.`}
        list={near}
        line={(n) => press(n, n.cell.verdict === 'missing_data' ? t`is not known` : '')}
      />
      {ofDisplay && far.length > 0 && <Reasons title={t`By more than one thing: ${far.length}`} list={far} line={(n) => press(n, '')} />}
      {ofDisplay && taken.length > 0 && (
        <>
          <h3>{t`Takes it: ${taken.length}`}</h3>
          <ul>{taken.map((n) => press(n, verdictWithin(n.cell.verdict) + (n.cell.rule ? t` by ${word(n.cell.rule)}` : '')))}</ul>
        </>
      )}
    </Panel>
  );
}

/** A list by rule, the rule that most are held up by first. */
function Reasons({ title, list, line }: { title: string; list: Near[]; line: (n: Near) => React.ReactNode }) {
  const by = new Map<string, Near[]>();
  for (const n of list) by.set(n.cell.rule, [...(by.get(n.cell.rule) ?? []), n]);
  return (
    <>
      <h3>{title}</h3>
      {[...by]
        .sort((a, b) => b[1].length - a[1].length)
        .map(([rule, some]) => (
          <div key={rule}>
            <h4>
              {ruleWords[rule] ?? rule}: {some.length}
            </h4>
            <ul>{some.map(line)}</ul>
          </div>
        ))}
    </>
  );
}

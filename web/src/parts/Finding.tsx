import Box from '@mui/material/Box';
import { styled } from '@mui/material/styles';
import { useEffect, useRef, type ReactNode } from 'react';
import type { Check } from '../api';
import { ruleWords, statusWords } from '../words';
import { Gauge } from './Gauge';
import { Shape, statusColour } from './Verdict';

const List = styled('ul')({ listStyle: 'none', margin: 0, padding: 0 });

const Card = styled('li')(({ theme }) => ({
  borderLeft: '3px solid transparent',
  margin: '0 -14px',
  padding: '7px 14px 8px 11px',
  borderTop: `1px solid ${theme.vars!.palette.divider}`,
  '&:focus-visible, &.lit': {
    outline: 'none',
    borderLeftColor: theme.vars!.palette.drawing.lit,
    background: `color-mix(in srgb, ${theme.vars!.palette.drawing.lit} 9%, transparent)`,
  },
  '& .head': { flexWrap: 'wrap', display: 'flex', alignItems: 'center', gap: 7 },
  '& .rule': { fontWeight: 600 },
  '& .figure': { fontSize: 13, marginLeft: 'auto', color: theme.vars!.palette.text.secondary, whiteSpace: 'nowrap' },
  '& p': { margin: '2px 0 0' },
  '&.passed': { paddingTop: 4, paddingBottom: 4, '& p': { fontSize: 13, color: theme.vars!.palette.text.secondary } },
}));

interface Props {
  check: Check;
  lit?: boolean;
  brief?: boolean; // passed: without its gauge
  onLight: (marks: string[]) => void;
  children?: ReactNode; // below its sentence
}

/** Findings: one stop of the keyboard, the arrow keys go through them. */
export function FindingList({ children, ...rest }: { children: ReactNode; className?: string; onPointerLeave?: () => void }) {
  const list = useRef<HTMLUListElement>(null);
  const stop = (at?: Element | null) => list.current?.querySelectorAll<HTMLElement>('.finding').forEach((e) => (e.tabIndex = e === at ? 0 : -1));
  useEffect(() => {
    if (!list.current?.querySelector('.finding[tabindex="0"]')) stop(list.current?.querySelector('.finding'));
  });
  return (
    <List ref={list} {...rest} onFocus={(e) => e.target.matches('.finding') && stop(e.target)}>
      {children}
    </List>
  );
}

/** A finding: what was compared, how it stands, the reason in a sentence. Pointing at it, or
    putting the keyboard on it, lights its parts of the drawing. */
export function Finding({ check, lit, brief, onLight, children }: Props) {
  const marks = check.marks ?? [];
  const own = useRef<HTMLLIElement>(null);
  // A new answer has new marks: what has the keyboard stays lit.
  useEffect(() => {
    if (check.marks && own.current === document.activeElement) onLight(check.marks);
  }, [check.marks, onLight]);
  return (
    <Card
      ref={own}
      className={['finding', lit && 'lit', brief && 'passed'].filter(Boolean).join(' ')}
      tabIndex={-1}
      data-rule={check.rule}
      data-status={check.status}
      onPointerEnter={() => onLight(marks)}
      onFocus={() => onLight(marks)}
      onBlur={() => onLight([])}
      onKeyDown={(e) => {
        const to = e.key === 'ArrowDown' ? 'nextElementSibling' : e.key === 'ArrowUp' ? 'previousElementSibling' : undefined;
        const next = to && e.currentTarget[to];
        if (next instanceof HTMLElement) {
          e.preventDefault();
          next.focus();
        }
      }}
    >
      <div className="head">
        <Shape of={check.status} />
        <span className="rule">{ruleWords[check.rule] ?? check.rule}</span>
        {!brief && (
          <Box component="span" sx={{ fontWeight: 600, color: statusColour[check.status] }}>
            {statusWords[check.status]}
          </Box>
        )}
        {check.figure && <span className="figure">{check.figure}</span>}
      </div>
      {!(brief && check.rule !== 'strength') && <Gauge check={check} />}
      <p>{check.text}</p>
      {children}
    </Card>
  );
}

/** What would put something right, or what else is to be known. */
export const Remark = styled('p')(({ theme }) => ({ color: theme.vars!.palette.text.secondary }));

import { t } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import ButtonBase from '@mui/material/ButtonBase';
import { styled } from '@mui/material/styles';
import { memo } from 'react';
import type { BenchAnswer } from '../api';
import { Shape } from '../parts/Verdict';
import { ruleWords, verdictWords, within } from '../words';

const Row = styled('nav')(({ theme }) => ({
  gridColumn: '1 / -1',
  borderTop: `1px solid ${theme.vars!.palette.divider}`,
  display: 'flex',
  alignItems: 'stretch',
  overflowX: 'auto',
  [theme.breakpoints.down('md')]: { flex: 'none' },
}));

const Name = styled('div')(({ theme }) => ({
  flex: 'none',
  padding: '8px 10px 8px 16px',
  color: theme.vars!.palette.text.secondary,
  width: 96,
  boxSizing: 'border-box',
  fontSize: 13,
  lineHeight: 1.3,
}));

const One = styled(ButtonBase)(({ theme }) => ({
  display: 'block',
  textAlign: 'left',
  borderLeft: `1px solid ${theme.vars!.palette.divider}`,
  padding: '6px 12px 7px',
  flex: '1 1 0',
  minWidth: 112,
  maxWidth: 210,
  lineHeight: 1.3,
  font: 'inherit',
  '&:hover, &[aria-pressed="true"]': { background: theme.vars!.palette.background.paper },
  '&[aria-pressed="true"]': { boxShadow: `inset 0 3px 0 ${theme.vars!.palette.primary.main}` },
  '&:focus-visible': { outlineOffset: -2 },
  '@media (pointer: coarse)': { minWidth: 128 },
  '& b': { display: 'flex', alignItems: 'center', gap: 6 },
  '& small': { color: theme.vars!.palette.text.secondary, display: 'block', fontSize: 12, overflow: 'hidden', textOverflow: 'ellipsis', whiteSpace: 'nowrap' },
}));

/** The other brackets for this display, the best first. */
export const Strip = memo(function Strip({ judged, onPick }: { judged: BenchAnswer; onPick: (id: string) => void }) {
  return (
    <Row className="strip" aria-label={t`Brackets for this display, the best first`}>
      <Name>
        <Trans>
          Brackets,
          <br />
          best first
          <br />
          <kbd>n</kbd> <kbd>p</kbd>
        </Trans>
      </Name>
      {judged.others.map((o) => (
        <One key={o.id} aria-pressed={o.id === judged.bracket.id} data-bracket={o.id} title={o.why || verdictWords[o.verdict]} onClick={() => onPick(o.id)}>
          <b>
            <Shape of={o.verdict} />
            {o.name}
          </b>
          <small>{verdictWords[o.verdict]}</small>
          <small>{o.verdict === 'does_not_fit' || !o.bolts ? o.rules.map((r) => within(ruleWords[r] ?? r)).join(', ') : o.bolts}</small>
        </One>
      ))}
    </Row>
  );
});

import { styled } from '@mui/material/styles';
import type { Check } from '../api';
import { statusColour } from './Verdict';

const Picture = styled('svg')(({ theme }) => ({
  display: 'block',
  width: '100%',
  height: 12,
  marginTop: 2,
  '& .track': { stroke: theme.vars!.palette.divider },
  '& .value': { stroke: 'currentColor' },
  '& .limit': { stroke: theme.vars!.palette.text.primary },
}));

/** A thin gauge: the value as a bar, the limit as a tick across it. */
export function Gauge({ check }: { check: Check }) {
  const { value, limit } = check;
  if (value === undefined || limit === undefined) return null;
  const low = Math.min(0, value, limit);
  const span = Math.max(value, limit, low + 1e-9) - low;
  const x = (n: number) => 2 + (296 * (n - low)) / (span * 1.12);
  return (
    <Picture viewBox="0 0 300 12" preserveAspectRatio="none" aria-hidden="true" sx={{ color: statusColour[check.status] }}>
      <line className="track" x1={2} y1={6} x2={298} y2={6} strokeWidth={2} />
      <line className="value" x1={x(Math.min(0, value))} y1={6} x2={x(value)} y2={6} strokeWidth={4} />
      <line className="limit" x1={x(limit)} y1={0} x2={x(limit)} y2={12} strokeWidth={2} />
    </Picture>
  );
}

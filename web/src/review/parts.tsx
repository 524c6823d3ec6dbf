import Box from '@mui/material/Box';
import { answer, api, type Schemas } from '../api';
import { Go } from '../parts/Press';
import { Shape, statusColour } from '../parts/Verdict';

export type Line = Schemas['ApprovalLine'];
export type Act = Schemas['Review']['may'][number];

export const stateWords: Record<Line['state'], string> = {
  draft: 'draft',
  in_review: 'in review',
  approved: 'approved',
  superseded: 'superseded',
  withdrawn: 'withdrawn',
};

/** What stands of an approval now: its state, and whether that still holds. */
export function stands(a: Line): string {
  return a.stale ? `${stateWords[a.state]}, stale` : stateWords[a.state];
}

const colours = { draft: 'text.secondary', in_review: 'info.main', approved: 'success.main', superseded: 'text.secondary', withdrawn: 'error.main' } as const;

export function State({ of }: { of: Line }) {
  return (
    <Box component="span" className="state" data-state={of.stale ? 'stale' : of.state} sx={{ fontWeight: 600, color: of.stale ? 'warning.main' : colours[of.state] }}>
      {stands(of)}
    </Box>
  );
}

export function Verdict({ of }: { of: Line['verdict'] }) {
  return (
    <Box component="span" sx={{ color: statusColour[of] }}>
      <Shape of={of} />
    </Box>
  );
}

/** An approval's title, which leads to its page. */
export function Title({ of }: { of: Line }) {
  return <Go to={`/reviews/${of.id}`}>{of.title}</Go>;
}

export const when = (at: string | undefined) => (at ? new Date(at).toLocaleString() : '');

export const asked = {
  desk: { queryKey: ['review', 'desk'], queryFn: ({ signal }: { signal: AbortSignal }) => answer(api.GET('/api/desk', { signal })) },
  all: { queryKey: ['review', 'all'], queryFn: ({ signal }: { signal: AbortSignal }) => answer(api.GET('/api/approvals', { signal })) },
} as const;

export const sheetWords = { pack: 'Installation pack', template: 'Drilling template', card: 'Measure card' } as const;
export type What = keyof typeof sheetWords;

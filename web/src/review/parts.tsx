import { plural, t } from '@lingui/core/macro';
import Box from '@mui/material/Box';
import { answer, api, type Schemas } from '../api';
import { Go } from '../parts/Press';
import { Shape, statusColour } from '../parts/Verdict';
import { ruleWords, statusWords } from '../words';

export type Line = Schemas['ApprovalLine'];
/** How an approval stands. */
export type Standing = Pick<Line, 'state' | 'stale' | 'restored'>;

export type Act = Schemas['Review']['may'][number];

export const stateWords: Record<Line['state'], string> = {
  draft: t`draft`,
  in_review: t`in review`,
  approved: t`approved`,
  superseded: t`superseded`,
  withdrawn: t`withdrawn`,
};

/** What stands of an approval now: its state, and whether that still holds. */
export function stands(a: Standing): string {
  return [stateWords[a.state], a.stale && t`stale`, a.restored && t`to be confirmed`].filter(Boolean).join(', ');
}

const colours = { draft: 'text.secondary', in_review: 'info.main', approved: 'success.main', superseded: 'text.secondary', withdrawn: 'error.main' } as const;

export function State({ of }: { of: Standing }) {
  return (
    <Box
      component="span"
      className="state"
      data-state={of.stale ? 'stale' : of.restored ? 'restored' : of.state}
      sx={{ fontWeight: 600, color: of.stale || of.restored ? 'warning.main' : colours[of.state] }}
    >
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

/** A line of a list: an approval, or several of a family that are decided together. */
export interface Entry extends Line {
  alike?: number; // how many
}

/** Of those with the same bolts and steps, one line. */
export function collapsed(lines: Line[]): Entry[] {
  return lines.flatMap((a) => {
    const alike = a.family ? lines.filter((b) => b.family === a.family) : [a];
    return alike[0] !== a ? [] : [alike.length > 1 ? { ...a, alike: alike.length } : a];
  });
}

/** Where an entry leads. */
export const pageOf = (a: Entry) => (a.alike ? `/reviews/family/${a.family}` : `/reviews/${a.id}`);

/** An approval's title, which leads to its page. */
export function Title({ of }: { of: Entry }) {
  return (
    <Go to={pageOf(of)}>
      {of.alike && t`${of.alike} alike: `}
      {of.title}
      {of.alike && ' …'}
    </Go>
  );
}

const known: Record<string, string> = {
  x_mm: t`across, mm`,
  y_mm: t`above the floor, mm`,
  datum_height_mm: t`level line, mm`,
  center_height_mm: t`middle, mm`,
  shear_n: t`shear, N`,
  pull_n: t`pull, N`,
};

const plain = (name: string) => known[name] ?? name.replace(/_(mm|kg|deg)$/, ', $1').replaceAll('_', ' ');

const ofChecks: Record<string, string> = { status: t`how it stands`, value: t`figure`, limit: t`limit` };

/** What differs, in words, by its path in a result or in what it is computed from; '' for what only follows from others. */
export function differenceWords(path: string, steps: Map<string, string>): string {
  const printed = /^printed\.(\w+)$/.exec(path);
  if (printed) return sheetWords[printed[1] as What] ?? printed[1]!;
  const hole = /^bracket\.wall_plate\.holes\[([^\]]+)\]\.(\w+)$/.exec(path);
  if (hole) return t`wall plate, hole ${hole[1]!}: ${hole[2] === 'y_mm' ? t`up, mm` : plain(hole[2]!)}`; // from its middle
  const check = /checks\[(\w+)[^\]]*\]\.(\w+)$/.exec(path);
  if (check) return check[2] === 'margin' ? '' : `${ruleWords[check[1]!] ?? check[1]}: ${ofChecks[check[2]!] ?? plain(check[2]!)}`;
  const point = /points\[([^\]]+)\]\.(\w+)$/.exec(path);
  if (point) return t`point ${point[1]!}: ${plain(point[2]!)}`;
  const step = /^steps\[(\w+)[^\]]*\]\.?(.*)$/.exec(path);
  if (step) {
    const part = step[2]!.startsWith('values') ? t`a figure in its text` : step[2]!.startsWith('words') ? t`its words` : plain(step[2]!);
    return t`step “${steps.get(step[1]!) ?? step[1]!}”: ${part}`;
  }
  return path
    .replace(/^(places\[0\]|pairing)\.?/, '')
    .replace(/^places\[(\d+)\]\.?/, (_, n: string) => t`display ${Number(n) + 1}: `)
    .split('.')
    .map(plain)
    .join(', ');
}

export const asked = {
  desk: { queryKey: ['review', 'desk'], queryFn: ({ signal }: { signal: AbortSignal }) => answer(api.GET('/api/desk', { signal })) },
  all: { queryKey: ['review', 'all'], queryFn: ({ signal }: { signal: AbortSignal }) => answer(api.GET('/api/approvals', { signal })) },
} as const;

export const sheetWords = { pack: t`Installation pack`, template: t`Drilling template`, card: t`Measure card` } as const;
export type What = keyof typeof sheetWords;

export const actWords: Record<Act, string> = { approve: t`Approve`, send_back: t`Send back`, withdraw: t`Withdraw`, confirm: t`Confirm that it holds` };

/** Reviews that were opened since this page was loaded: the samples of a family that somebody has looked at. */
export const opened = new Set<number>();

/** What the members of a family have in common. */
export function Alike({ f }: { f: Schemas['Family'] }) {
  return (
    <>
      {f.bolts.map((b) => (
        <p key={b}>{b}</p>
      ))}
      <p>
        {plural(f.steps.length, { one: '# step', other: '# steps' })}
        {f.findings.length > 0 && <>{t`; to be minded: ${f.findings.map((c) => `${ruleWords[c.rule] ?? c.rule} (${statusWords[c.status]})`).join(', ')}`}</>}.
      </p>
    </>
  );
}

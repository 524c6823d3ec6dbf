import { plural, t } from '@lingui/core/macro';
import Box from '@mui/material/Box';
import Link from '@mui/material/Link';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import { memo, type ReactNode } from 'react';
import { flushSync } from 'react-dom';
import { Link as RouterLink } from 'react-router';
import type { BenchAnswer, Check, Schemas } from '../api';
import { means } from '../parts/Drawing';
import { FigureTable } from '../parts/Figures';
import { Finding, FindingList, Remark } from '../parts/Finding';
import { Head } from '../parts/Page';
import { Press } from '../parts/Press';
import { useNotice } from '../shell/notice';
import { useTab, useWorkspace } from '../state/workspace';
import { otherBracket } from '../state/inputs';
import { least, type Units } from '../state/units';
import { figureName } from '../words';

type Group = Schemas['StackGroup'];

interface Props {
  judged: BenchAnswer;
  units: Units;
  lit: string[];
  pointed: string; // tag of the drawing's part that is pointed at
  onLight: (marks: string[]) => void;
}

/** The bolts, then the findings, worst first. */
export const Findings = memo(function Findings({ judged, units, lit, pointed, onLight }: Props) {
  const stack = judged.pairing.stack;
  return (
    <>
      {stack && <Bolts stack={stack} units={units} onLight={onLight} lit={lit} pointed={pointed} />}
      {judged.help && !judged.help.send && <Helps help={judged.help} />}
      {judged.not_tried && <Helping left>{judged.not_tried}</Helping>}
      {!judged.help && !judged.not_tried && ['does_not_fit', 'missing_data'].includes(judged.pairing.verdict) && (
        <>
          <Head>{t`What would help`}</Head>
          <Helping help="none">{t`Tried: another school, arm position, turn, spacers, other parts, a better measurement, another bracket. None of these helps.`}</Helping>
        </>
      )}
      {judged.pairing.assumed.length > 0 && <StandsOn assumed={judged.pairing.assumed} display={judged.in_catalogue ? judged.display.id : ''} />}
      <Head>{t`Findings`}</Head>
      <FindingList onPointerLeave={() => onLight([])}>
        {judged.pairing.checks.map((c) => (
          <Finding key={c.rule} check={c} lit={isLit(c, lit, pointed)} onLight={onLight}>
            {from(c) && <Remark>{from(c)}</Remark>}
            {c.remedy && <Remedy text={c.remedy} />}
          </Finding>
        ))}
      </FindingList>
    </>
  );
});

/** What the verdict stands on though nobody has said it, with how far it may be off. Pressing one opens its field. */
function StandsOn({ assumed, display }: { assumed: Schemas['Assumed'][]; display: string }) {
  const [, show] = useTab('panel', ['call', 'figures']);
  const open = (path: string) => {
    if (focusField(path)) return;
    flushSync(() => show('figures'));
    focusField(path);
  };
  return (
    <Box className="stands-on">
      <Head>{t`Stands on`}</Head>
      <Box component="ul" sx={{ m: 0, p: 0, listStyle: 'none' }}>
        {assumed.map((a) => (
          <li key={a.path}>
            {hasField(a.path) ? (
              <Press onClick={() => open(a.path)} data-assumed={a.path}>
                {a.text}
              </Press>
            ) : display ? (
              <Link component={RouterLink} to={`/catalogue/displays/${encodeURIComponent(display)}#${a.path}`} data-assumed={a.path} sx={{ display: 'block' }}>
                {a.text}
              </Link>
            ) : (
              a.text
            )}
          </li>
        ))}
      </Box>
    </Box>
  );
}

/** Whether the bench has a field for a figure: of the holes, and of the accessories. */
const hasField = (path: string) => path.startsWith('patterns[') || path === 'accessories_kg';

/** Puts the keyboard into the field of a figure, and reports whether it is there. */
function focusField(path: string): boolean {
  const field = document.querySelector<HTMLInputElement>(`input[data-path="display.${path}"], input[data-path="${path}"]`);
  field?.focus();
  field?.select();
  return field !== null;
}

/** The first thing found that would make the pairing better, to be pressed.
    What has to be sent stands with the stack's finding already. */
export function Helps({ help }: { help: Schemas['Help'] }) {
  const { ask } = useWorkspace();
  const press: Partial<Record<typeof help.kind, [string, () => void]>> = {
    school: [t`Apply`, () => ask((a) => ({ schools: { ...a.schools, [help.setting!]: help.school! } }))],
    arms: [t`Move the arms there`, () => ask({ topHoles: help.top_holes_mm! })],
    spacers: [t`Use spacers`, () => ask({ spacers: help.arm_clearance_mm! })],
    turn: [t`Turn it`, () => ask({ turn: help.turn_deg!, topHoles: null })],
    bracket: [t`Take that bracket`, () => ask((a) => otherBracket(a, help.bracket!))],
  };
  const [name, act] = press[help.kind] ?? [];
  return (
    <>
      <Head>{t`What would help`}</Head>
      <Helping help={help.kind}>
        <span>{help.text}</span> {act && <Press onClick={act}>{name}</Press>}
      </Helping>
    </>
  );
}

function Helping({ help, left, children }: { help?: string; left?: boolean; children: ReactNode }) {
  return (
    <Box component="p" className="helps" data-help={help} data-left-out={left || undefined} sx={{ borderLeft: 3, borderColor: 'primary.main', pl: 2.25, mb: 3 }}>
      {children}
    </Box>
  );
}

/** Copies text for an order. */
function useCopy() {
  const tell = useNotice();
  return (text: string) =>
    void navigator.clipboard
      .writeText(text)
      .then(() => tell({ text: t`Copied for the order: ${text}` }))
      .catch(() => tell({ text: t`The browser does not let this be copied: ${text}` }));
}

function isLit(c: Check, lit: string[], pointed: string): boolean {
  const marks = c.marks ?? [];
  return (lit.length > 0 && marks === lit) || (pointed !== '' && marks.some((m) => means(m, pointed)));
}

const origins: Record<string, string> = { bench: t`measured`, sheet: t`from the data sheet`, caller: t`from a caller` };

/** Where figures came from, when not all from the data sheet. */
function from(check: Check): string {
  const odd = Object.entries(check.origins ?? {}).filter(([, o]) => o !== 'sheet');
  return odd.map(([figure, o]) => `${figureName(figure)} ${origins[o]}`).join(', ');
}

/** A remedy; what has to be sent can be copied for the order with a press. */
function Remedy({ text }: { text: string }) {
  const copy = useCopy();
  const send = /[Ss]end (\d.*?)(?:\.$|: )/.exec(text)?.[1];
  if (!send) return <Remark>{text}</Remark>;
  return (
    <p>
      <Press title={t`Copy this for the order`} onClick={() => copy(send)}>
        {text}
      </Press>
    </p>
  );
}

function Bolts({ stack, units, lit, pointed, onLight }: { stack: Schemas['Stack']; units: Units; lit: string[]; pointed: string; onLight: (marks: string[]) => void }) {
  return (
    <>
      <Head>{t`Bolts`}</Head>
      <FigureTable className="bolts" onPointerLeave={() => onLight([])}>
        <TableHead>
          <TableRow>
            <TableCell>{t`Holes and parts`}</TableCell>
            <TableCell className="num">{t`thread engaged`}</TableCell>
            <TableCell className="num">{t`tip clearance`}</TableCell>
            <TableCell className="num">{t`turns`}</TableCell>
          </TableRow>
        </TableHead>
        <TableBody>
          {stack.groups.map((g, i) => {
            const mark = `stack.${i}`;
            const on = lit.includes(mark) || (pointed !== '' && means(mark, pointed));
            return (
              <TableRow key={g.holes.join()} className={on ? 'lit' : ''} data-group={i} onPointerEnter={() => onLight([mark])}>
                <TableCell>
                  <span className="what" data-bolt={`${g.bolt.thread}×${g.bolt.length_mm}`}>
                    {g.bolt.thread}×{g.bolt.length_mm}
                  </span>{' '}
                  {g.holes.join(' ')}
                  <small>{parts(g)}</small>
                </TableCell>
                <TableCell className="num">
                  {least(g.engagement_mm, units)}
                  <small>{t`worst case ${least(g.engagement_worst_mm, units)}`}</small>
                </TableCell>
                <TableCell className="num">
                  {least(g.tip_clearance_mm, units)}
                  <small>{t`worst case ${least(g.tip_clearance_worst_mm, units)}`}</small>
                </TableCell>
                <TableCell className="num">{Math.floor(g.turns)}</TableCell>
              </TableRow>
            );
          })}
        </TableBody>
      </FigureTable>
    </>
  );
}

function parts(g: Group): string {
  const out = [plural(g.washers.count, { one: 'washer', other: '# washers' })];
  if (g.shoulder_washer_mm > 0) out.push(t`shoulder washer`);
  for (const s of g.spacers_mm) out.push(t`spacer ${s}`);
  if (g.spacers_mm.length > 0) out.push(g.bearing === 'rim' ? t`on the rim` : t`in the recess`);
  return out.join(', ');
}

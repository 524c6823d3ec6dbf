import { t } from '@lingui/core/macro';
import Accordion from '@mui/material/Accordion';
import AccordionDetails from '@mui/material/AccordionDetails';
import AccordionSummary from '@mui/material/AccordionSummary';
import Box from '@mui/material/Box';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import { styled } from '@mui/material/styles';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import { Fragment, useCallback, useState } from 'react';
import { useParams } from 'react-router';
import type { Bracket, Schemas } from '../api';
import { Choice } from '../parts/Choice';
import { Hint, Quick } from '../parts/Page';
import { Press, Remove } from '../parts/Press';
import { useWorkspace } from '../state/workspace';
import { fastenerWords, wallWords } from '../words';
import { Assembly } from './Assembly';
import { Translations } from './Translations';
import { Editable } from './Editable';
import { useEditing, type Acts } from './editing';
import { useValue } from './fields';
import { Columns, EditorFrame, Effects, Section } from './EditorFrame';
import { Field, Line, Lines, Pick } from './Field';

const loads = [
  ['rated_load_kg', t`Rated load`],
  ['diagonal_min_mm', t`Diagonals from`],
  ['diagonal_max_mm', t`Diagonals up to`],
  ['mass_kg', t`Mass`],
  ['hung_mass_kg', t`Mass hung on the display`],
  ['rated_moment_nm', t`Rated moment`],
  ['tilt_hold_nm', t`Tilt joint holds`],
  ['slip_nm', t`Ball slips at`],
] as const;
const bolting = [
  ['plate_thickness_mm', t`Plate where the bolt passes`],
  ['slot_width_mm', t`Slot width`],
  ['head_room_mm', t`Head room`],
  ['lift_over_mm', t`Lift over the hook`],
] as const;
const moving = [
  ['profile_mm', t`Wall to arms, closed`],
  ['reach_mm', t`Wall to arms, drawn out`],
  ['tilt_down_deg', t`Tilts down`],
  ['tilt_up_deg', t`Tilts up`],
  ['swivel_deg', t`Swivels`],
  ['arm_swing_deg', t`Arm swings aside`],
  ['tilt_pivot.below_hook_mm', t`Tilt pivot below the hook`],
  ['tilt_pivot.behind_arm_mm', t`Tilt pivot behind the arms`],
  ['swivel_pivot.behind_arm_mm', t`Swivel pivot behind the arms`],
] as const;
const arms = [
  ['interface.width_min_mm', t`Patterns from, wide`],
  ['interface.width_max_mm', t`Patterns up to, wide`],
  ['interface.arm_width_mm', t`Arm width`],
  ['interface.arm_top_mm', t`Arm above the hook line`],
  ['interface.arm_bottom_mm', t`Arm below the hook line`],
  ['interface.rail_width_mm', t`Rail`],
] as const;
const plate = [
  ['interface.center_below_hook_mm', t`Pattern centre below the hook`],
  ['interface.width_mm', t`Plate width`],
  ['interface.height_mm', t`Plate height`],
] as const;
const wallPlate = [
  ['wall_plate.width_mm', t`Width`],
  ['wall_plate.height_mm', t`Height`],
  ['wall_plate.thickness_mm', t`Thickness`],
  ['wall_plate.washer_mm', t`Washer under its heads`],
  ['wall_plate.hook_above_datum_mm', t`Hook line above the datum`],
] as const;

type Hole = NonNullable<NonNullable<Bracket['wall_plate']>['holes']>[number];

const none: Schemas['Item'][] = [];

/** A bracket as drawings: its arms and wall plate, and its kit laid out. */
export function BracketEditor() {
  const { id = '' } = useParams();
  return <Editor key={id} id={id} />;
}

function Editor({ id }: { id: string }) {
  const edit = useEditing<Bracket>('brackets', id, 'bracket');
  const [at, setAt] = useState(''); // the figure that has the keyboard
  const { doc, acts: of } = edit;
  const figureOf = useCallback((tag: string) => figureOn(doc!, tag), [doc]);
  const lines = (list: readonly (readonly [string, string])[]) => (
    <Lines>
      {list.map(([path, label]) => (
        <Line key={path} label={label}>
          <Field of={of} path={path} label={label} placeholder="–" onAt={setAt} />
        </Line>
      ))}
    </Lines>
  );
  return (
    <EditorFrame edit={edit} kind="brackets" id={id} title={doc ? `${doc.name ?? doc.id}${doc.revision ? t`, revision letter ${doc.revision}` : ''}` : id}>
      {doc && (
        <Columns className="editor" sx={{ gridTemplateColumns: { md: 'minmax(280px, 1fr) 500px 226px' } }}>
          <Editable
            of={of}
            svg={edit.drawn?.picture ?? ''}
            title={t`Arms and wall plate`}
            caption={t`From the front. Press a dimension, a slot or a hole and type its figure.`}
            at={at}
            figureOf={figureOf}
            tagFor={tagFor}
          />
          <div className="figures">
            <Section title={t`The bracket`}>
              <Lines>
                <Line label={t`Name`} wide>
                  <Field of={of} path="name" label={t`Name`} words />
                </Line>
                <Line label={t`Maker’s revision letter`}>
                  <Field of={of} path="revision" label={t`Maker’s revision letter`} words />
                </Line>
              </Lines>
              {lines(loads)}
            </Section>
            <Section title={t`Where the bolts pass`}>
              {lines(bolting)}
              {lines(doc.interface.type === 'arms' ? arms : plate)}
              {doc.interface.slots_mm && <Slots of={of} slots={doc.interface.slots_mm.length} onAt={setAt} />}
            </Section>
            <Section title={t`How it moves`}>{lines(moving)}</Section>
            {doc.wall_plate && (
              <Section title={t`Wall plate`}>
                {lines(wallPlate)}
                {doc.wall_plate.holes && doc.wall_plate.holes.length > 0 && <Holes of={of} holes={doc.wall_plate.holes} onAt={setAt} />}
              </Section>
            )}
            <Section title={t`Kit: ${doc.kit?.length ?? 0} parts`}>
              <Kit of={of} kit={doc.kit ?? none} threads={doc.threads} pictures={edit.drawn?.kit ?? ''} />
            </Section>
            <Section title={t`Its own steps: ${doc.assembly?.length ?? 0}`}>
              <Assembly edit={edit} />
            </Section>
            <Section title={t`In other languages`} shut>
              <Translations edit={edit} />
            </Section>
          </div>
          <div className="beside">
            <Effects edit={edit} />
          </div>
        </Columns>
      )}
    </EditorFrame>
  );
}

/** The figure that a part of the drawing shows. */
function figureOn(doc: Bracket, tag: string): [string, string] | undefined {
  const [what, n] = tag.split('.');
  if (tag === 'arms.width') return ['interface.width_max_mm', t`Patterns up to, wide`];
  if (tag === 'arms.length' || what === 'arm') return ['interface.arm_bottom_mm', t`Arm below the hook line`];
  if (what === 'slot') return [`interface.slots_mm[${n}][1]`, t`Slot ${Number(n) + 1}, end, mm`];
  if (what === 'hook') return ['wall_plate.hook_above_datum_mm', t`Hook line above the datum`];
  if (what === 'plate') return ['interface.width_mm', t`Plate width`];
  const hole = what === 'wall' ? (doc.wall_plate?.holes ?? []).findIndex((h) => h.id === n) : -1;
  if (hole >= 0) return [`wall_plate.holes[${hole}].x_mm`, t`Hole ${n!}, right of the middle`];
  return what === 'wall' ? ['wall_plate.width_mm', t`Wall plate width`] : undefined;
}

function tagFor(path: string): string {
  const slot = /slots_mm\[(\d+)\]/.exec(path);
  if (slot) return `slot.${slot[1]}`;
  const hole = /^hole (.*)/.exec(path);
  if (hole) return `wall.${hole[1]}`;
  if (path.startsWith('interface.arm_')) return 'arm';
  return { 'interface.width_max_mm': 'arms.width', 'wall_plate.hook_above_datum_mm': 'hook', 'wall_plate.width_mm': 'wall' }[path] ?? '';
}

function Slots({ of, slots, onAt }: { of: Acts; slots: number; onAt: (path: string) => void }) {
  const field = (path: string, label: string) => <Field of={of} path={path} label={label} bare onAt={onAt} />;
  return (
    <>
      <Box sx={{ color: 'text.secondary', mt: 1.5 }}>{t`Slots below the hook line, mm`}</Box>
      <Lines>
        {Array.from({ length: slots }, (_, i) => (
          <Line key={i} label={t`Slot ${i + 1}, from and to`} beside={field(`interface.slots_mm[${i}][1]`, t`Slot ${i + 1}, end`)}>
            {field(`interface.slots_mm[${i}][0]`, t`Slot ${i + 1}, start`)}
          </Line>
        ))}
      </Lines>
    </>
  );
}

const Small = styled('div')(({ theme }) => ({
  display: 'grid',
  gap: '4px 5px',
  alignItems: 'center',
  marginTop: 6,
  '& > span': { color: theme.vars!.palette.text.secondary, fontSize: 12.5, lineHeight: 1.15 },
  '& .MuiInputBase-root': { fontSize: 14 },
}));

function Holes({ of, holes, onAt }: { of: Acts; holes: Hole[]; onAt: (path: string) => void }) {
  const { units } = useWorkspace();
  return (
    <Small sx={{ gridTemplateColumns: '48px repeat(4, minmax(0, 1fr))' }}>
      <span>{units}</span>
      <span>{t`right`}</span>
      <span>{t`up`}</span>
      <span>Ø</span>
      <span>{t`travel`}</span>
      {holes.map((h, i) => (
        <Fragment key={h.id}>
          <span>{h.id}</span>
          {(['x_mm', 'y_mm', 'diameter_mm', 'length_mm'] as const).map((n) =>
            h[n] === undefined && of.value(`wall_plate.holes[${i}].${n}`) === undefined ? (
              <span key={n} />
            ) : (
              <Field key={n} of={of} path={`wall_plate.holes[${i}].${n}`} label={`${h.id}: ${n.replace(/_mm$/, '')}`} bare hole={n === 'x_mm' ? h.id : undefined} onAt={onAt} place={t`hole ${h.id}`} />
            ),
          )}
        </Fragment>
      ))}
    </Small>
  );
}

const sizes: Record<string, [string, string][]> = {
  bolt: [['length_mm', t`long`]],
  washer: [
    ['thickness_mm', t`thick`],
    ['outer_mm', t`wide`],
  ],
  shoulder_washer: [['thickness_mm', t`thick`]],
  spacer: [
    ['length_mm', t`long`],
    ['outer_mm', t`wide`],
  ],
  lag: [
    ['diameter_mm', 'Ø'],
    ['length_mm', t`long`],
  ],
  screw: [
    ['diameter_mm', 'Ø'],
    ['length_mm', t`long`],
  ],
  ...Object.fromEntries(
    Object.keys(fastenerWords)
      .filter((k) => k !== 'lag' && k !== 'screw')
      .map((k) => [
        k,
        [
          ['diameter_mm', 'Ø'],
          ['length_mm', t`long`],
        ] as [string, string][],
      ]),
  ),
};

/** What else decides how a fastener holds, beyond its size. */
const further: [string, string][] = [
  ['embedment_min_mm', t`at least in the wall`],
  ['thread_length_mm', t`thread`],
  ['root_mm', t`Ø of its root`],
  ['sleeve_mm', t`rigid sleeve`],
  ['fu_mpa', t`steel`],
];

const rated = (kind: string) => kind in fastenerWords && kind !== 'lag' && kind !== 'screw';

/** The walls a fastener is made for, and what else its maker says. None ticked:
    what fasteners of its kind are made for. */
function MadeFor({ of, item, at, line }: { of: Acts; item: Schemas['Item']; at: string; line: number }) {
  const made = (useValue(of, `${at}.for`) ?? []) as string[];
  const figure = (n: string, word: string) => (
    <Line key={n} label={word}>
      <Field of={of} path={`${at}.${n}`} label={t`Line ${line}: ${word}`} />
    </Line>
  );
  return (
    <Accordion className="made-for" slotProps={{ transition: { unmountOnExit: true, timeout: 0 } }}>
      <AccordionSummary expandIcon="▾" sx={{ fontWeight: 400 }}>
        {made.length > 0 ? t`for ${made.map((w) => wallWords[w as keyof typeof wallWords]).join(', ')}` : t`for what its kind is made for`}
      </AccordionSummary>
      <AccordionDetails>
        <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr' }}>
          {Object.entries(wallWords).map(([w, name]) => (
            <FormControlLabel
              key={w}
              label={name}
              control={
                <Checkbox
                  slotProps={{ input: { 'aria-label': t`Line ${line}: made for ${name}` } }}
                  checked={made.includes(w)}
                  onChange={(e) => {
                    const next = e.target.checked ? [...made, w] : made.filter((x) => x !== w);
                    of.set(`${at}.for`, next.length > 0 ? next : null);
                  }}
                />
              }
            />
          ))}
        </Box>
        <Lines>
          {further.map(([n, word]) => figure(n, word))}
          {rated(item.kind) && !item.ratings && figure('pull_kg', t`pulled`)}
          {rated(item.kind) && !item.ratings && figure('shear_kg', t`across`)}
          {Object.keys(item.ratings ?? {}).map((w) => [figure(`ratings.${w}.pull_kg`, t`pulled in ${wallWords[w]!}`), figure(`ratings.${w}.shear_kg`, t`across in ${wallWords[w]!}`)])}
        </Lines>
        {rated(item.kind) && (
          <Pick
            of={of}
            path={`${at}.rating_basis`}
            label={t`Line ${line}: figures are`}
            options={[
              ['', t`ratings: not known of what kind`],
              ['rated', t`rated, for use`],
              ['ultimate', t`ultimate: a quarter counts`],
            ]}
          />
        )}
      </AccordionDetails>
    </Accordion>
  );
}

const Picture = styled('div')({ height: 34, display: 'flex', alignItems: 'center', overflow: 'hidden', '& svg': { height: 34, width: 'auto', flex: 'none' } });

const KitTable = styled(Table)(({ theme }) => ({
  tableLayout: 'fixed',
  '& td, & th': { padding: '2px 4px 2px 0', border: 0, verticalAlign: 'middle', overflowWrap: 'anywhere', lineHeight: 1.15, fontWeight: 400 },
  '& thead th': { color: theme.vars!.palette.text.secondary, fontSize: 12.5 },
  '& .MuiInputBase-root': { fontSize: 14 },
}));

/** The kit: each part as it lies on the bench, in which bag, how many, and its size. */
function Kit({ of, kit, threads, pictures }: { of: Acts; kit: Schemas['Item'][]; threads: Bracket['threads']; pictures: string }) {
  const { units } = useWorkspace();
  const drawn = pictures.split('\n');
  const add = (item: Schemas['Item']) => of.set(`kit[${kit.length}]`, item);
  return (
    <>
      <KitTable className="kit-lines" aria-label={t`Kit`}>
        <TableHead>
          <TableRow>
            <TableCell sx={{ width: 84 }} aria-label={t`picture`} />
            <TableCell>{t`part`}</TableCell>
            <TableCell sx={{ width: 46 }}>{t`bag`}</TableCell>
            <TableCell sx={{ width: 52 }}>{t`count`}</TableCell>
            <TableCell sx={{ width: 170 }}>{t`size, ${units}`}</TableCell>
            <TableCell sx={{ width: 30 }} aria-label={t`take out`} />
          </TableRow>
        </TableHead>
        <TableBody>
          {kit.map((k, i) => (
            <Fragment key={i}>
              <TableRow>
                <TableCell>
                  <Picture data-kit={i} aria-hidden="true" dangerouslySetInnerHTML={{ __html: drawn[i] ?? '' }} />
                </TableCell>
                <TableCell component="th" scope="row">
                  {k.name ?? [k.kind.replaceAll('_', ' '), k.thread].filter(Boolean).join(' ')}
                </TableCell>
                <TableCell>
                  <Field of={of} path={`kit[${i}].bag`} label={t`Bag of line ${i + 1}`} words />
                </TableCell>
                <TableCell>
                  <Field of={of} path={`kit[${i}].count`} label={t`Count of line ${i + 1}`} step={1} />
                </TableCell>
                <TableCell>
                  <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 1 }}>
                    {(sizes[k.kind] ?? []).map(([n, word]) => (
                      <Field key={n} of={of} path={`kit[${i}].${n}`} label={t`Line ${i + 1}: ${word}`} placeholder={word} bare word={word} />
                    ))}
                  </Box>
                </TableCell>
                <TableCell>
                  <Remove what={t`line ${i + 1}`} act={() => of.set(`kit[${i}]`, null)} />
                </TableCell>
              </TableRow>
              {k.kind in fastenerWords && (
                <TableRow>
                  <TableCell />
                  <TableCell colSpan={5}>
                    <MadeFor of={of} item={k} at={`kit[${i}]`} line={i + 1} />
                  </TableCell>
                </TableRow>
              )}
            </Fragment>
          ))}
        </TableBody>
      </KitTable>
      {kit.length === 0 && <Hint>{t`The kit is empty.`}</Hint>}
      <Quick>
        <Press onClick={() => add({ kind: 'bolt', thread: threads[0], length_mm: 16, count: 4 } as Schemas['Item'])}>{t`Add a bolt`}</Press>
        <Press onClick={() => add({ kind: 'spacer', threads, length_mm: 10, outer_mm: 18, count: 4 } as Schemas['Item'])}>{t`Add a spacer`}</Press>
        <Press onClick={() => add({ kind: 'lag', diameter_mm: 8, length_mm: 70, count: 4 } as Schemas['Item'])}>{t`Add a lag`}</Press>
        <Choice
          label={t`Add a fastener for walls`}
          width={160}
          value=""
          options={[
            ['', t`Add an anchor…`],
            ...Object.entries(fastenerWords)
              .filter(([k]) => rated(k) && k !== 'anchor')
              .map(([k, word]) => [k, word] as const),
          ]}
          onPick={(kind) => kind && add({ kind, diameter_mm: 10, length_mm: 60, count: 4 } as Schemas['Item'])}
        />
      </Quick>
    </>
  );
}

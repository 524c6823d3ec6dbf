import { t } from '@lingui/core/macro';
import Accordion from '@mui/material/Accordion';
import AccordionDetails from '@mui/material/AccordionDetails';
import AccordionSummary from '@mui/material/AccordionSummary';
import Box from '@mui/material/Box';
import { styled } from '@mui/material/styles';
import { Suspense, memo, useState } from 'react';
import { faultOf, type BenchAnswer, type Problem, type Request } from '../api';
import { screen } from '../parts/again';
import { Choice } from '../parts/Choice';
import { FieldError, Head, Hint } from '../parts/Page';
import { Press } from '../parts/Press';
import { FigureLine, FigureList, QuantityField } from '../parts/QuantityField';
import { panelOf, Tabs } from '../parts/Tabs';
import { focusPick, useCommands } from '../state/commands';
import { ask, useWorkspace, useTab } from '../state/workspace';
import { useCalm } from '../state/steady';
import { asInCatalogue, at, threads, withSchool, type Typed } from '../state/inputs';
import { figureName, schoolWords } from '../words';

// What is asked on the telephone, or of parts in hand, is loaded when it is.
const Call = screen(() => import('./Call').then((m) => m.Call));
const InHand = screen(() => import('./InHand').then((m) => m.InHand));
const Wrong = screen(() => import('../steps/Symptoms').then((m) => m.Wrong));

/** What is wrong with each figure of the request, by its path. */
export type FigureErrors = Record<string, string>;

export function errorsByPath(problem: Pick<Problem, 'problems'> | undefined): FigureErrors {
  return Object.fromEntries((problem?.problems ?? []).map((p) => [p.path, faultOf(p)]));
}

const errorId = (path: string) => `error-${path.replace(/\W+/g, '-')}`;

interface Props {
  judged?: BenchAnswer;
  errors: FigureErrors;
  request?: Request;
}

const holeFigures = [
  ['thread_depth_mm', t({ message: 'thread', context: 'a column' }), t`Thread depth`, '?'],
  ['setback_mm', t({ message: 'rim offset', context: 'a column' }), t`Rim offset`, '?'],
  ['recess_mm', t({ message: 'recess', context: 'a column' }), t`Recess depth`, '?'],
  ['recess_diameter_mm', t({ message: 'recess Ø', context: 'a column' }), t`Recess Ø`, '–'],
] as const;

const schools = [
  ['bolt_school', t`Bolt length`, ['balanced', 'deep', 'shallow']],
  ['arm_school', t`Arm position`, ['centred', 'high']],
  ['size_school', t`Screen size over range`, ['limit', 'guidance']],
] as const;

const HoleGrid = styled('div')(({ theme }) => ({
  display: 'grid',
  gap: '3px 5px',
  alignItems: 'center',
  margin: '4px 0 10px',
  '& > .name': { color: theme.vars!.palette.text.secondary, lineHeight: 1.15, fontSize: 14 },
  '& > .column': { color: theme.vars!.palette.text.secondary, fontSize: 12, textAlign: 'center', lineHeight: 1.15 },
}));

const sentence = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);

/** The figures that matter, to be changed to see what follows. Nothing is saved. */
export function Figures({ judged, errors, request }: Props) {
  const { inputs, units } = useWorkspace();
  const told = Object.values(inputs.trials).some((list) => list.length > 0);
  const [mode, setMode] = useTab('panel', told ? ['call', 'hand', 'wrong', 'figures'] : ['figures', 'call', 'hand', 'wrong']);
  const [eager, setEager] = useState(false); // the call panel was asked for: it takes the keyboard
  const open = (which: typeof mode) => {
    setMode(which);
    setEager(true);
    focusPick(which);
  };
  useCommands(t`Beside the drawing`, [
    { key: 'c', does: t`telephone: trial bolts`, run: () => open('call') },
    { key: 'i', does: t`parts in hand: are they safe`, run: () => open('hand') },
    { key: 'x', does: t`when something is wrong`, run: () => open('wrong') },
  ]);
  const display = judged?.display;
  const bracket = judged?.bracket;
  const used = Math.max(judged?.pattern_index ?? 0, 0);
  const pattern = display?.patterns?.[used];
  const holes = pattern?.holes
    ? pattern.holes.map((h, i) => ({ at: `patterns[${used}].holes[${i}]`, name: h.id }))
    : [
        { at: `patterns[${used}].rows.top`, name: t`Top` },
        { at: `patterns[${used}].rows.bottom`, name: t`Bottom` },
      ];

  const field = (path: string, label: string, more?: { step?: number; pick?: string; placeholder?: string; bare?: boolean; errorAt?: string; autoFocus?: boolean }) => {
    const [kind, ...rest] = path.split('.');
    const document = kind === 'display' ? display : kind === 'bracket' ? bracket : undefined;
    const stood = judged?.was[path];
    const value = stood === undefined ? document && at(document, rest.join('.')) : stood;
    return (
      <BenchField
        {...more}
        placeholder={judged ? more?.placeholder : '…'}
        label={label}
        path={path}
        value={typeof value === 'number' ? value : undefined}
        typed={inputs.changes[path]}
        error={errors[path]}
        bracket={bracket?.id}
      />
    );
  };
  const row = (path: string, label: string, more?: Parameters<typeof field>[2]) => (
    <FigureLine key={path} label={label}>
      {field(path, label, more)}
    </FigureLine>
  );

  const asked = judged?.pairing.assumed ?? [];
  const across = holes.length <= 3; // a column for each hole, else a line
  const ofHole = (h: (typeof holes)[number], i: number, [name, , label, none]: (typeof holeFigures)[number], j: number) => (
    <div key={h.at + name}>
      {field(`display.${h.at}.${name}`, `${label}, ${h.name}`, {
        placeholder: none,
        bare: !across,
        pick: i + j === 0 ? 'figures' : undefined,
        errorAt: errorId(`display.${h.at}.${name}`),
      })}
    </div>
  );
  const changed =
    told || inputs.topHoles !== null || inputs.spacers !== null || Object.keys(inputs.changes).some((p) => !p.startsWith('site.')) || Object.keys(inputs.schools).some((s) => s !== 'wall_school');
  const calm = useCalm(inputs.changes);
  const ofHoles = !calm ? [] : Object.entries(errors).filter(([path]) => /\.(holes\[|rows\.)/.test(path) && path in inputs.changes);
  return (
    <>
      <Tabs
        label={t`What is looked at`}
        of="mode"
        value={mode}
        tabs={[
          ['figures', t`What if`],
          ['call', t`Phone`, t`Trial bolts by telephone (c)`],
          ['hand', t`In hand`, t`Parts in hand: are they safe? (i)`],
          ['wrong', t`Trouble`, t`When something is wrong with what hangs (x)`],
        ]}
        onPick={open}
      />
      <Box {...panelOf('mode', mode)}>
        <Suspense>
          {mode === 'call' && <Call holes={holes} bracket={bracket?.id ?? ''} eager={eager} />}
          {mode === 'call' && asked.length > 0 && (
            <Box component="section" className="ask-as-well" aria-label={t`Ask as well`}>
              <Head>{t`Ask as well`}</Head>
              {asked.map((a) => (
                <Box key={a.path} sx={{ mb: 1 }}>
                  <Hint>{a.text}</Hint>
                  {a.path.startsWith('patterns[') && <FigureList>{row(`display.${a.path}`, sentence(figureName(a.path)), { placeholder: '?' })}</FigureList>}
                </Box>
              ))}
            </Box>
          )}
          {mode === 'hand' && judged && <InHand judged={judged} request={request} />}
          {mode === 'wrong' && <Wrong eager={eager} />}
        </Suspense>
        {mode === 'figures' && (
          <>
            <Box sx={{ mt: 1.5 }} />
            <Hint>{t`Change a figure and see what follows. Nothing is saved before you press Save.`}</Hint>
            <HoleGrid className="holes" sx={{ gridTemplateColumns: across ? `minmax(86px, 1fr) repeat(${holes.length}, minmax(0, 84px))` : '34px repeat(4, minmax(0, 1fr))' }}>
              <span />
              {across
                ? holes.map((h) => (
                    <span key={h.at} className="column">
                      {h.name}
                    </span>
                  ))
                : holeFigures.map(([name, word, label]) => (
                    <span key={name} className="column" title={label}>
                      {word}, {units}
                    </span>
                  ))}
              {across
                ? holeFigures.map((f, j) => [
                    <span key={f[0]} className="name">
                      {f[2]}
                    </span>,
                    ...holes.map((h, i) => ofHole(h, i, f, j)),
                  ])
                : holes.map((h, i) => [
                    <span key={h.at} className="name">
                      {h.name}
                    </span>,
                    ...holeFigures.map((f, j) => ofHole(h, i, f, j)),
                  ])}
            </HoleGrid>
          </>
        )}
      </Box>
      {ofHoles.map(([path, text]) => (
        <FieldError key={path} id={errorId(path)}>
          {figureName(path)}: {text}
        </FieldError>
      ))}
      <FigureList sx={{ mt: 1.5 }}>
        {row('bracket.plate_thickness_mm', t`Plate`)}
        {row('bracket.slot_width_mm', t`Slot width`)}
        {row('accessories_kg', t`Accessories`, { placeholder: '0' })}
        {schools.map(([name, label, choices]) => {
          const standard = judged?.policy_in_use[name] ?? choices[0];
          const value = inputs.schools[name] ?? standard;
          return (
            <FigureLine key={name} label={label}>
              <Choice
                label={label}
                value={value}
                changed={Boolean(inputs.schools[name])}
                options={choices.map((c) => [c, schoolWords[c] ?? c])}
                onPick={(to) => ask((a) => ({ schools: withSchool(a.schools, name, to, standard) }))}
              />
              {name === 'bolt_school' &&
                choices
                  .filter((c) => judged?.schools[c] && judged.schools[c] !== judged.schools[value])
                  .map((c) => (
                    <Box key={c} component="small" sx={{ display: 'block', color: 'text.secondary', fontSize: 12, lineHeight: 1.3 }}>
                      {schoolWords[c] ?? c}: {judged?.schools[c]}
                    </Box>
                  ))}
            </FigureLine>
          );
        })}
      </FigureList>
      <Accordion defaultExpanded={inputs.typed !== null} key={inputs.typed?.id ?? ''}>
        <AccordionSummary expandIcon="▾">{t`The display’s figures`}</AccordionSummary>
        <AccordionDetails>
          <FigureList>
            {row(`display.patterns[${used}].width_mm`, t`Pattern width`, { step: 50, autoFocus: inputs.typed !== null && pattern === undefined })}
            {row(`display.patterns[${used}].height_mm`, t`Pattern height`, { step: 50 })}
            <FigureLine label={t`Thread`}>
              <ThreadField path={`display.patterns[${used}].thread`} base={pattern?.thread} />
            </FigureLine>
            {row('display.mass_kg', t`Mass`)}
            {row('display.diagonal_mm', t`Diagonal`, { step: 25.4 })}
            {row('display.width_mm', t`Width`, { step: 5 })}
            {row('display.height_mm', t`Height`, { step: 5 })}
            {row('display.depth_mm', t`Depth`, { step: 1 })}
            {row(`display.patterns[${used}].center_below_top_mm`, t`Pattern below top`, { step: 5 })}
          </FigureList>
        </AccordionDetails>
      </Accordion>
      {changed && <Press onClick={() => ask(asInCatalogue)}>{t`Back to the catalogue’s figures`}</Press>}
    </>
  );
}

interface BenchFieldProps {
  path: string;
  label: string;
  value: number | undefined;
  typed: Typed | undefined;
  error?: string;
  errorAt?: string;
  bracket?: string;
  step?: number;
  pick?: string;
  placeholder?: string;
  bare?: boolean;
  autoFocus?: boolean;
}

/** A figure of the bench; drawn again only when it is itself another. */
const BenchField = memo(function BenchField({ path, bracket, ...rest }: BenchFieldProps) {
  return <QuantityField {...rest} of={path} path={path} onType={(t) => ask(change(path, t, bracket), path)} />;
});

function ThreadField({ path, base }: { path: string; base?: string }) {
  const { inputs, ask, units } = useWorkspace();
  const typed = inputs.changes[path];
  return (
    <Choice
      label={t`Thread`}
      value={typed?.text ?? base ?? ''}
      changed={typed !== undefined}
      options={[['', t`not known`], ...threads.map((t) => [t, t] as const)]}
      onPick={(t) => ask(change(path, t === (base ?? '') ? null : { text: t, unit: units }), path)}
    />
  );
}

/** A change of the bracket needs the bracket to be picked by name, or the best
    one could become another. */
function change(path: string, t: Typed | null, bracket?: string) {
  return (a: { changes: Record<string, Typed>; bracket: string }) => {
    const changes = { ...a.changes };
    if (t) changes[path] = t;
    else delete changes[path];
    return { changes, bracket: a.bracket || (path.startsWith('bracket.') ? (bracket ?? '') : '') };
  };
}

import type { BenchAnswer, Bracket, Display, Problem, Question } from '../api';
import { useDesk } from '../state/desk';
import { asInCatalogue, at, type Typed } from '../state/question';
import { useState } from 'react';
import { focusPick, useKeys } from '../state/commands';
import { schoolWords } from '../words';
import { Call } from './Call';
import { FigureField } from '../parts/QuantityField';
import { InHand } from './InHand';

/** What is wrong with each figure of the question, by its path. */
export type FigureErrors = Record<string, string>;

/** Paths as the server writes them, with units in the names or without. */
export function errorsByPath(problem: Problem | undefined): FigureErrors {
  const out: FigureErrors = {};
  for (const p of problem?.problems ?? []) out[p.path.replace(/_(mm|kg|deg)$/, '')] = p.found + (p.allowed && !p.found.includes('allowed:') ? `; allowed: ${p.allowed}` : '');
  return out;
}

interface Props {
  judged?: BenchAnswer;
  base: { display?: Display; bracket?: Bracket };
  errors: FigureErrors;
  question?: Question;
}

const holeFigures = [
  ['thread_depth_mm', 'thread', 'Thread depth', '?'],
  ['setback_mm', 'rim offset', 'Rim offset', '0'],
  ['recess_mm', 'recess', 'Recess depth', '0'],
  ['recess_diameter_mm', 'recess Ø', 'Recess Ø', '–'],
] as const;

const schools = [
  ['bolt_school', 'Bolt length', ['balanced', 'deep', 'shallow']],
  ['arm_school', 'Arm position', ['centred', 'high']],
  ['size_school', 'Screen size over range', ['limit', 'guidance']],
] as const;

/** The figures that matter, to be changed to see what follows. Nothing is saved. */
export function Figures({ judged, base, errors, question }: Props) {
  const { asking, ask } = useDesk();
  const [mode, setMode] = useState<'' | 'call' | 'hand'>(() => (Object.values(asking.trials).some((list) => list.length > 0) ? 'call' : ''));
  const [eager, setEager] = useState(false); // the call panel was asked for: it takes the keyboard
  const open = (which: 'call' | 'hand') => () => {
    setMode(which);
    setEager(true);
    focusPick(which);
  };
  useKeys({ c: open('call'), i: open('hand') });
  const display = base.display ?? judged?.display;
  const bracket = base.bracket ?? judged?.bracket;
  const used = Math.max(judged?.pattern_index ?? 0, 0);
  const pattern = display?.patterns?.[used];
  const holes = pattern?.holes
    ? pattern.holes.map((h, i) => ({ at: `patterns[${used}].holes[${i}]`, name: h.id }))
    : [
        { at: `patterns[${used}].rows.top`, name: 'Top' },
        { at: `patterns[${used}].rows.bottom`, name: 'Bottom' },
      ];

  const field = (path: string, label: string, more?: { step?: number; mass?: boolean; words?: boolean; pick?: string; placeholder?: string }) => {
    const [kind, ...rest] = path.split('.');
    const document = kind === 'display' ? display : kind === 'bracket' ? bracket : undefined;
    const value = document && at(document, rest.join('.'));
    const own = { shown: more?.mass ? massText(value as number | undefined) : more?.words ? ((value as string | undefined) ?? '') : undefined };
    return (
      <FigureField
        label={label}
        value={typeof value === 'number' ? value : undefined}
        {...own}
        typed={asking.changes[path]}
        step={more?.step}
        words={more?.mass || more?.words}
        pick={more?.pick}
        placeholder={more?.placeholder}
        error={errors[path.replace(/_(mm|kg|deg)$/, '')]}
        onType={(t) => ask(change(path, t, bracket?.id), path)}
      />
    );
  };
  const row = (path: string, label: string, more?: Parameters<typeof field>[2]) => (
    <tr key={path}>
      <th scope="row">{label}</th>
      <td>{field(path, label, more)}</td>
    </tr>
  );

  const told = Object.values(asking.trials).some((list) => list.length > 0);
  const changed = told || asking.topHoles !== null || Object.keys(asking.changes).some((p) => !p.startsWith('site.')) || Object.keys(asking.schools).some((s) => s !== 'wall_school');
  const mine = Object.entries(errors).filter(([path]) => Object.keys(asking.changes).some((c) => c.replace(/_(mm|kg|deg)$/, '') === path));
  return (
    <>
      <h2 className="modes">
        <button type="button" className="tab" aria-pressed={mode === ''} onClick={() => setMode('')}>
          What if
        </button>
        <button type="button" className="tab" aria-pressed={mode === 'call'} data-mode="call" title="Trial bolts by telephone (c)" onClick={open('call')}>
          Telephone
        </button>
        <button type="button" className="tab" aria-pressed={mode === 'hand'} data-mode="hand" title="Are these parts safe? (i)" onClick={open('hand')}>
          Parts in hand
        </button>
      </h2>
      {mode === 'call' && <Call holes={holes} bracket={bracket?.id ?? ''} eager={eager} />}
      {mode === 'hand' && <InHand judged={judged} question={question} />}
      {mode === '' && <p className="hint">Change a figure and see what follows. Nothing is saved.</p>}
      <table className="pull holes" hidden={mode !== ''}>
        <thead>
          <tr>
            <th />
            {holeFigures.map(([name, word, label]) => (
              <th key={name} scope="col" title={label}>
                {word}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {holes.map((h, i) => (
            <tr key={h.at}>
              <th scope="row">{h.name}</th>
              {holeFigures.map(([name, , label, none], j) => (
                <td key={name}>{field(`display.${h.at}.${name}`, `${label}, ${h.name}`, { placeholder: none, pick: i + j === 0 ? 'figures' : undefined })}</td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
      {mine.map(([path, text]) => (
        <p key={path} className="field-error" role="alert">
          {path.slice(path.lastIndexOf('.') + 1).replaceAll('_', ' ')}: {text}
        </p>
      ))}
      <table className="pull">
        <tbody>
          {row('bracket.plate_thickness_mm', 'Plate')}
          {row('bracket.slot_width_mm', 'Slot width')}
          {row('accessories_kg', 'Accessories', { mass: true, placeholder: '0 kg' })}
          {schools.map(([name, label, choices]) => (
            <tr key={name}>
              <th scope="row">{label}</th>
              <td>
                <select
                  className={`figure-field${asking.schools[name] ? ' changed' : ''}`}
                  aria-label={label}
                  value={asking.schools[name] ?? judged?.house[name] ?? choices[0]}
                  onChange={(e) => ask((a) => ({ schools: withSchool(a.schools, name, e.target.value, judged?.house[name] ?? choices[0]) }))}
                >
                  {choices.map((c) => (
                    <option key={c} value={c}>
                      {schoolWords[c] ?? c}
                    </option>
                  ))}
                </select>
                {name === 'bolt_school' &&
                  choices
                    .filter((c) => judged?.schools[c] && judged.schools[c] !== judged.schools[asking.schools[name] ?? judged.house[name] ?? choices[0]])
                    .map((c) => (
                      <small key={c} className="other-school">
                        {c}: {judged?.schools[c]}
                      </small>
                    ))}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <details className="more" open={asking.typed !== null || undefined}>
        <summary>The display's figures</summary>
        <table className="pull">
          <tbody>
            <tr>
              <th scope="row">Pattern</th>
              <td>
                <span className="pair">
                  {field(`display.patterns[${used}].width_mm`, 'Pattern width', { step: 50 })}×{field(`display.patterns[${used}].height_mm`, 'Pattern height', { step: 50 })}
                </span>
              </td>
            </tr>
            <tr>
              <th scope="row">Thread</th>
              <td>
                <ThreadField path={`display.patterns[${used}].thread`} base={pattern?.thread} />
              </td>
            </tr>
            {row('display.mass_kg', 'Mass', { mass: true })}
            {row('display.diagonal_mm', 'Diagonal', { step: 25.4 })}
            {row('display.width_mm', 'Width', { step: 5 })}
            {row('display.height_mm', 'Height', { step: 5 })}
            {row('display.depth_mm', 'Depth', { step: 1 })}
            {row(`display.patterns[${used}].center_below_top_mm`, 'Pattern below top', { step: 5 })}
          </tbody>
        </table>
      </details>
      {changed && (
        <button type="button" className="press" onClick={() => ask(asInCatalogue)}>
          Back to the catalogue's figures
        </button>
      )}
    </>
  );
}

function ThreadField({ path, base }: { path: string; base?: string }) {
  const { asking, ask, units } = useDesk();
  const typed = asking.changes[path];
  return (
    <select
      className={`figure-field${typed ? ' changed' : ''}`}
      aria-label="Thread"
      value={typed?.text ?? base ?? ''}
      onChange={(e) => ask(change(path, e.target.value === (base ?? '') ? null : { text: e.target.value, unit: units }), path)}
    >
      <option value="">not known</option>
      {['M4', 'M5', 'M6', 'M8'].map((t) => (
        <option key={t}>{t}</option>
      ))}
    </select>
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

function withSchool(all: Record<string, string>, name: string, value: string, standard: string) {
  const out = { ...all, [name]: value };
  if (value === standard) delete out[name];
  return out;
}

function massText(kg: number | undefined): string {
  return kg === undefined ? '' : `${kg} kg`;
}

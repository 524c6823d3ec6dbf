import { useEffect, useRef } from 'react';
import type { BenchAnswer, Check, Schemas } from '../api';
import { useDesk } from '../state/desk';
import { otherBracket } from '../state/question';
import { useNotice } from '../shell/notice';
import type { Units } from '../state/units';
import { least } from '../state/units';
import { ruleWords, Shape, statusWords } from '../words';
import { means } from '../parts/Drawing';
import { Gauge } from '../parts/Gauge';

type Group = Schemas['StackGroup'];

interface Props {
  judged: BenchAnswer;
  units: Units;
  lit: string[];
  pointed: string; // tag of the drawing's part that is pointed at
  onLight: (marks: string[]) => void;
}

/** The bolts, then the findings, worst first. */
export function Findings({ judged, units, lit, pointed, onLight }: Props) {
  const stack = judged.pairing.stack;
  return (
    <>
      {stack && <Bolts stack={stack} units={units} onLight={onLight} lit={lit} pointed={pointed} />}
      {judged.help && !judged.help.send && <Helps help={judged.help} />}
      {judged.left_out && (
        <p className="helps" data-left-out>
          {judged.left_out}
        </p>
      )}
      {!judged.help && !judged.left_out && ['does_not_fit', 'missing_data'].includes(judged.pairing.verdict) && (
        <>
          <h2>What would help</h2>
          <p className="helps" data-help="none">
            Tried: another school, arm position, turn, other parts, a better measurement, another bracket. None of these helps.
          </p>
        </>
      )}
      <h2>Findings</h2>
      <div onPointerLeave={() => onLight([])}>
        {judged.pairing.checks.map((c) => (
          <Finding key={c.rule} check={c} lit={isLit(c, lit, pointed)} onLight={onLight}/>
        ))}
      </div>
    </>
  );
}

/** The first thing found that would make the pairing better, to be pressed.
    What has to be sent stands with the stack's finding already. */
function Helps({ help }: { help: Schemas['Help'] }) {
  const { ask } = useDesk();
  const press: Partial<Record<typeof help.kind, [string, () => void]>> = {
    school: ['Apply', () => ask((a) => ({ schools: { ...a.schools, [help.setting!]: help.school! } }))],
    arms: ['Move the arms there', () => ask({ topHoles: help.top_holes_mm! })],
    turn: ['Turn it', () => ask({ turn: help.turn_deg!, topHoles: null })],
    bracket: ['Take that bracket', () => ask((a) => otherBracket(a, help.bracket!))],
  };
  const [name, act] = press[help.kind] ?? [];
  return (
    <>
      <h2>What would help</h2>
      <p className="helps" data-help={help.kind}>
        {help.text}{' '}
        {act && (
          <button type="button" className="press" onClick={act}>
            {name}
          </button>
        )}
      </p>
    </>
  );
}

/** Copies text for an order. */
function useCopy() {
  const tell = useNotice();
  return (text: string) =>
    void navigator.clipboard
      .writeText(text)
      .then(() => tell({ text: `Copied for the order: ${text}` }))
      .catch(() => tell({ text: `The browser does not let this be copied: ${text}` }));
}

function isLit(c: Check, lit: string[], pointed: string): boolean {
  const marks = c.marks ?? [];
  return (lit.length > 0 && marks === lit) || (pointed !== '' && marks.some((m) => means(m, pointed)));
}

function Finding({ check, lit, onLight }: { check: Check; lit: boolean; onLight: (marks: string[]) => void }) {
  const marks = check.marks ?? [];
  const own = useRef<HTMLElement>(null);
  // A new answer has new marks: what has the keyboard stays lit.
  useEffect(() => {
    if (check.marks && own.current === document.activeElement) onLight(check.marks);
  }, [check.marks, onLight]);
  return (
    <section
      ref={own}
      className={`finding${lit ? ' lit' : ''}`}
      tabIndex={0}
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
        <span className={`word ${check.status}`}>{statusWords[check.status]}</span>
        {check.figure && <span className="figure">{check.figure}</span>}
      </div>
      <div className={check.status}>
        <Gauge check={check} />
      </div>
      <p>{check.text}</p>
      {from(check) && <p className="from">{from(check)}</p>}
      {check.remedy && <Remedy text={check.remedy} />}
    </section>
  );
}

const figureWords: Record<string, string> = { recess_mm: 'recess depth', recess_diameter_mm: 'recess Ø', setback_mm: 'rim offset' };

const origins: Record<string, string> = { bench: 'measured', sheet: 'from the data sheet', caller: 'from a caller' };

/** Where figures came from, when not all from the data sheet. */
function from(check: Check): string {
  const odd = Object.entries(check.origins ?? {}).filter(([, o]) => o !== 'sheet');
  return odd.map(([figure, o]) => `${figureWords[figure] ?? figure.replace(/_(mm|kg)$/, '').replaceAll('_', ' ')} ${origins[o]}`).join(', ');
}

/** A remedy; what has to be sent can be copied for the order with a press. */
function Remedy({ text }: { text: string }) {
  const copy = useCopy();
  const send = /[Ss]end (\d.*?)(?:\.$|: )/.exec(text)?.[1];
  if (!send) return <p className="remedy">{text}</p>;
  return (
    <p>
      <button type="button" className="press" title="Copy this for the order" onClick={() => copy(send)}>
        {text}
      </button>
    </p>
  );
}

function Bolts({ stack, units, lit, pointed, onLight }: { stack: Schemas['Stack']; units: Units; lit: string[]; pointed: string; onLight: (marks: string[]) => void }) {
  return (
    <>
      <h2>Bolts</h2>
      <table className="bolts" onPointerLeave={() => onLight([])}>
        <thead>
          <tr>
            <th>Holes and parts</th>
            <th className="num">thread engaged</th>
            <th className="num">tip clearance</th>
            <th className="num">turns</th>
          </tr>
        </thead>
        <tbody>
          {stack.groups.map((g, i) => {
            const mark = `stack.${i}`;
            const on = lit.includes(mark) || (pointed !== '' && means(mark, pointed));
            return (
              <tr key={g.holes.join()} className={on ? 'lit' : ''} data-group={i} onPointerEnter={() => onLight([mark])}>
                <td>
                  <span className="what" data-bolt={`${g.bolt.thread}×${g.bolt.length_mm}`}>
                    {g.bolt.thread}×{g.bolt.length_mm}
                  </span>{' '}
                  {g.holes.join(' ')}
                  <small>{parts(g)}</small>
                </td>
                <td className="num">
                  {least(g.engagement_mm, units)}
                  <small>worst case {least(g.engagement_worst_mm, units)}</small>
                </td>
                <td className="num">
                  {least(g.tip_clearance_mm, units)}
                  <small>worst case {least(g.tip_clearance_worst_mm, units)}</small>
                </td>
                <td className="num">{Math.floor(g.turns)}</td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </>
  );
}

function parts(g: Group): string {
  const out = [g.washers.count === 1 ? 'washer' : `${g.washers.count} washers`];
  if (g.shoulder_washer_mm > 0) out.push('shoulder washer');
  for (const s of g.spacers_mm) out.push(`spacer ${s}`);
  if (g.spacers_mm.length > 0) out.push(g.bearing === 'rim' ? 'on the rim' : 'in the recess');
  return out.join(', ');
}

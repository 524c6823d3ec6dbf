import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { answer, api, Refused, type Schemas } from '../api';
import { useDesk } from '../state/desk';
import type { ToldTrial } from '../state/question';
import { asTrial } from '../state/question';
import { Drawing } from '../parts/Drawing';

const outcomes = [
  ['stopped', 'stopped while turning'],
  ['seated', 'turned until its head came down'],
  ['rests', 'pushed in, rests on the thread'],
  ['too_big', 'will not go in'],
  ['too_small', 'drops in, no thread'],
  ['loose', 'catches and rocks'],
] as const;

// What callers say for a length, and how far that may be off (practice).
const byHand = [
  ['a coin’s thickness', '2 mm', '1 mm'],
  ['a pencil’s thickness', '7 mm', '1 mm'],
  ['a finger’s width', '16 mm', '4 mm'],
  ['a thumb’s width', '20 mm', '4 mm'],
] as const;

interface Column {
  at: string;
  name: string;
}

/** What a caller tells of holes that nobody has measured, trial by trial. */
export function Call({ holes, bracket, eager }: { holes: Column[]; bracket: string; eager: boolean }) {
  const { asking, ask, units } = useDesk();
  // '' for all holes, as long as nothing else was told of one of them.
  const alike = holes.every((h) => JSON.stringify(asking.trials[h.at] ?? []) === JSON.stringify(asking.trials[holes[0]!.at] ?? []));
  const [chosen, setWhich] = useState('');
  const which = alike ? chosen : chosen || holes[0]!.at;
  const places = which === '' ? holes.map((h) => h.at) : [which];
  const told = asking.trials[places[0] ?? ''] ?? [];
  const put = (list: ToldTrial[]) =>
    ask((a) => ({ trials: { ...a.trials, ...Object.fromEntries(places.map((p) => [p, list])) } }));

  const probed = useQuery({
    queryKey: ['probe', told, bracket, units],
    queryFn: ({ signal }) =>
      answer(
        api.POST('/api/probe', {
          body: { trials: told.map(asTrial) as unknown as Schemas['Trial'][], bracket_id: bracket || undefined, units },
          signal,
        }),
      ),
    placeholderData: (last) => last,
  });
  const result = probed.data?.result;
  const wrong = probed.error instanceof Refused ? (probed.error.problem.problems ?? []) : [];
  const clashing = new Set(result?.conflicts.flatMap((c) => c.trials));
  return (
    <section className="call" aria-label="On the telephone">
      <label className="which">
        Holes
        <select className="figure-field" value={which} onChange={(e) => setWhich(e.target.value)} aria-label="Holes the caller speaks of">
          <option value="" disabled={!alike}>
            {alike ? 'all alike' : 'all alike (they are not)'}
          </option>
          {holes.map((h) => (
            <option key={h.at} value={h.at}>
              {h.name}
            </option>
          ))}
        </select>
      </label>
      {probed.data && (
        <div className="hole">
          <Drawing svg={probed.data.drawing} title="What is known of the hole" caption={null} lit={[]} onPoint={() => {}} />
        </div>
      )}
      <ol className="trials">
        {told.map((t, i) => (
          <li key={i} className={clashing.has(i) ? 'clash' : ''}>
            <span>
              <b>
                {t.thread}×{t.length}
              </b>{' '}
              {outcomes.find(([o]) => o === t.outcome)?.[1]}
              {t.gap && `, ${t.gap} left`}
              {t.turns && `, ${t.turns} turns`}
              {t.said && <q>{t.said}</q>}
            </span>
            <button type="button" className="press" aria-label={`Take trial ${i + 1} back`} onClick={() => put(told.filter((_, j) => j !== i))}>
              ×
            </button>
          </li>
        ))}
      </ol>
      {wrong.map((p) => (
        <p key={p.path} className="field-error" role="alert">
          Trial {Number(/trials\[(\d+)\]/.exec(p.path)?.[1] ?? 0) + 1}: {p.found}
        </p>
      ))}
      {result?.conflicts.map((c) => (
        <p key={c.text} className="field-error" role="alert">
          {c.text}
        </p>
      ))}
      {result?.hints?.map((h) => (
        <p key={h} className="warn">
          {h}
        </p>
      ))}
      {result && !probed.isPlaceholderData && <Entry key={told.length} last={told.at(-1)} eager={eager} next={result.next ?? undefined} units={units} onAdd={(t) => put([...told, t])} />}
    </section>
  );
}

/** One trial as it is told. The proposed bolt is filled in already. */
function Entry({ next, last, units, eager, onAdd }: { eager: boolean; last?: ToldTrial; next?: Schemas['NextTrial']; units: string; onAdd: (t: ToldTrial) => void }) {
  const [t, setT] = useState<ToldTrial>({
    thread: next?.thread ?? last?.thread ?? 'M6',
    length: next ? String(next.length_mm) : (last?.length ?? ''),
    outcome: next?.outcome ?? 'stopped',
    gap: '',
    turns: '',
    tolerance: '',
    said: '',
    unit: units === 'in' ? 'in' : 'mm',
  });
  const set = (part: Partial<ToldTrial>) => setT((old) => ({ ...old, ...part }));
  const measured = t.outcome === 'stopped' || t.outcome === 'rests';
  return (
    <form
      className="entry"
      onSubmit={(e) => {
        e.preventDefault();
        if (t.length.trim() && (!measured || t.gap.trim() || t.turns.trim())) onAdd(t);
      }}
    >
      <p className="hint">
        {next ? (
          <>
            Next: <b data-next={`${next.thread}×${next.length_mm}`}>{next.thread}×{next.length_mm}</b>. {next.why}
          </>
        ) : (
          'No other trial would tell more.'
        )}
      </p>
      <div className="bolt">
        <select className="figure-field" aria-label="Thread of the bolt" value={t.thread} onChange={(e) => set({ thread: e.target.value })}>
          {['M4', 'M5', 'M6', 'M8'].map((x) => (
            <option key={x}>{x}</option>
          ))}
        </select>
        ×
        <input className="figure-field" aria-label="Length of the bolt, mm" value={t.length} onChange={(e) => set({ length: e.target.value })} />
      </div>
      <select
        className="figure-field outcome"
        aria-label="What happened"
        data-pick="call"
        autoFocus={eager}
        value={t.outcome}
        onChange={(e) => set({ outcome: e.target.value })}
        onKeyDown={(e) => {
          if (e.key !== 'Enter') return;
          e.preventDefault();
          e.currentTarget.form?.requestSubmit();
        }}
      >
        {outcomes.map(([o, words]) => (
          <option key={o} value={o}>
            {words}
          </option>
        ))}
      </select>
      {(measured || t.outcome === 'seated') && (
        <div className="bolt">
          {measured && (
            <label>
              gap under the head
              <input className="figure-field" aria-label="Gap under bolt head" value={t.gap} onChange={(e) => set(inWords(e.target.value))} />
            </label>
          )}
          {t.outcome !== 'rests' && (
            <label>
              turns
              <input className="figure-field" aria-label="Turns" inputMode="decimal" value={t.turns} onChange={(e) => set({ turns: e.target.value })} />
            </label>
          )}
          <label>
            tolerance ±
            <input className="figure-field" aria-label="Tolerance ±" placeholder="1 mm" value={t.tolerance} onChange={(e) => set({ tolerance: e.target.value })} />
          </label>
        </div>
      )}
      {measured && (
        <div className="by-hand" role="group" aria-label="In the caller’s words">
          {byHand.map(([words, length]) => (
            <button key={words} type="button" title={`${words}, about ${length}`} onClick={() => set(inWords(words))}>
              {words.replace(/^a |’s.*$/g, '')}
            </button>
          ))}
        </div>
      )}
      <button type="submit" className="press" disabled={!t.length.trim() || (measured && !t.gap.trim() && !t.turns.trim())}>
        Add this trial <kbd>Enter</kbd>
      </button>
    </form>
  );
}

/** A caller's words for a length become one, with how far it may be off. */
function inWords(text: string): Partial<ToldTrial> {
  const plain = text.trim().toLowerCase().replaceAll("'", '’');
  const found = byHand.find(([words]) => words === plain);
  return found ? { gap: found[1], tolerance: found[2], said: found[0] } : { gap: text, said: '' };
}

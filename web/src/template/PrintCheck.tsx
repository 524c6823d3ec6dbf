import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { answer, api, Refused } from '../api';
import { useDesk } from '../state/desk';
import { withUnit } from '../state/units';
import { Shape } from '../words';
import type { Sent } from './Plotter';

const bars = [
  ['100 mm', 100],
  ['4 in', 101.6],
] as const;

/** The printed bar as it was measured: the print is accepted, or not and why.
    With a job that is saved, the answer is saved with it. */
export function PrintCheck({ paper }: { paper: Sent['paper'] }) {
  const { asking, ask, units } = useDesk();
  const queries = useQueryClient();
  const [bar, setBar] = useState(units === 'mm' ? 100 : 101.6);
  const [measured, setMeasured] = useState('');
  const job = asking.site?.id || undefined;
  const check = useMutation({
    mutationFn: () => {
      const body = { job, bar_mm: bar, measured: withUnit(measured, units), paper, units };
      return answer(api.POST('/api/prints', { body: body as unknown as { bar_mm: number; measured_mm: number } }));
    },
    onSuccess: (a) => {
      if (!a.saved?.job) return;
      void queries.invalidateQueries({ queryKey: ['jobs'] });
      ask((now) => ({ site: { ...now.site!, prints: a.saved!.job!.prints }, siteRevision: a.saved!.revision }));
    },
  });
  const wrong = check.error instanceof Refused ? (check.error.problem.problems?.map((p) => `${p.found}; allowed: ${p.allowed}`).join(' ') ?? check.error.message) : check.error?.message;
  const prints = asking.site?.prints ?? [];
  return (
    <section aria-label="Check the print">
      <h2>Check the print</h2>
      <form
        className="print-check"
        onSubmit={(e) => {
          e.preventDefault();
          if (measured.trim()) check.mutate();
        }}
      >
        <label>
          The bar of{' '}
          <select className="figure-field" aria-label="Bar" value={bar} onChange={(e) => setBar(Number(e.target.value))}>
            {bars.map(([name, mm]) => (
              <option key={name} value={mm}>
                {name}
              </option>
            ))}
          </select>
        </label>
        <label>
          measures{' '}
          <input className="figure-field" aria-label="Measured" aria-invalid={wrong ? true : undefined} placeholder={units} value={measured} onChange={(e) => setMeasured(e.target.value)} />
        </label>
        <button type="submit" className="press" disabled={!measured.trim() || check.isPending}>
          Check
        </button>
      </form>
      {wrong && (
        <p className="field-error" role="alert">
          {wrong}
        </p>
      )}
      {check.data && !wrong && (
        <p className={check.data.accepted ? 'pass' : 'fail'} role="status" data-print={check.data.accepted ? 'accepted' : 'refused'}>
          <Shape of={check.data.accepted ? 'pass' : 'fail'} /> {check.data.text} {check.data.saved ? `Saved with job ${job}.` : 'Not saved: save the wall as a job first.'}
        </p>
      )}
      {prints.length > 0 && (
        <ul className="plain hint">
          {prints
            .slice(-3)
            .reverse()
            .map((p) => (
              <li key={p.at}>
                {p.at?.slice(0, 10)}: {p.measured_mm} of {p.bar_mm} mm, {p.accepted ? 'accepted' : 'not accepted'}
                {p.who && `, ${p.who}`}
              </li>
            ))}
        </ul>
      )}
    </section>
  );
}

import type { Check, Verdict } from './api';

export const verdictWords: Record<Verdict, string> = {
  fits: 'Fits',
  fits_with_conditions: 'Fits with conditions',
  missing_data: 'Figures missing',
  does_not_fit: 'Does not fit',
};

/** The same on a wall. */
export const hereWords: Record<Verdict, string> = { ...verdictWords, fits: 'Fits here', does_not_fit: 'Does not fit here' };

export const statusWords: Record<Check['status'], string> = {
  pass: 'pass',
  note: 'note',
  caution: 'caution',
  unknown: 'unknown',
  fail: 'fail',
};

export { baseWords, fastenerWords, languageWords, ruleWords, wallWords } from './gen/words';

/** What people call the choices of a policy whose names do not say it. */
export const schoolWords: Record<string, string> = {
  limit: 'reject',
  guidance: 'warn',
  studs_only: 'studs only',
  stud_and_anchors: 'one stud and anchors',
  toggles_for_light: 'allow toggles (light loads)',
  spirit_level: 'spirit level',
  laser: 'line laser',
  template: 'template',
  tape: 'tape measure',
  by_outlet: 'by the outlet',
  before: 'before it hangs',
  after: 'after it hangs',
};

/** Where figures come from. */
export const originWords: Record<string, string> = { bench: 'measured', sheet: 'data sheet', caller: 'caller' };

/** What people call the figures whose names do not say it. */
export const figureWords: Record<string, string> = { zones: 'ports', accessories_kg: 'accessories', cg_right_mm: 'centre of gravity', mass_kg: 'mass without stand', recess_mm: 'recess depth', recess_diameter_mm: 'recess Ø', setback_mm: 'rim offset' };

/** What people call the entries of a document's lists. */
const entryWords: Record<string, string> = { kit: 'kit line', zones: 'zone', patterns: 'pattern', holes: 'hole', assembly: 'own step', slots_mm: 'slot', outlets: 'outlet', trials: 'trial', translations: 'translation', parts: 'part' };

/** A figure in words, by its path in a document. */
export function figureName(path: string): string {
  const said = /^(origins|notes)\.(.*)$/.exec(path);
  if (said) return `${said[1] === 'origins' ? 'origin of the' : 'note on the'} ${figureName(said[2]!)}`;
  const last = path.slice(path.lastIndexOf('.') + 1);
  const row = /rows\.(top|bottom)/.exec(path);
  const entries = [...path.matchAll(/(\w+)\[(\d+)\]/g)].filter(([whole]) => whole !== 'patterns[0]');
  const where = (row ? `, ${row[1]} row` : '') + entries.map(([, of, n]) => `, ${entryWords[of!] ?? of} ${Number(n) + 1}`).join('');
  if (last.endsWith(']')) return where.slice(2);
  return (figureWords[last] ?? figureWords[`${last}_mm`] ?? figureWords[`${last}_kg`] ?? last.replace(/_(mm|kg|deg|nm|n)$/, '').replaceAll('_', ' ')) + where;
}

import { t } from '@lingui/core/macro';
import type { Check, Verdict } from './api';
import { locale, words } from './i18n';

export const verdictWords: Record<Verdict, string> = {
  fits: t`Fits`,
  fits_with_conditions: t`Fits with conditions`,
  missing_data: t`Figures missing`,
  does_not_fit: t`Does not fit`,
};

/** The same on a wall. */
export const hereWords: Record<Verdict, string> = { ...verdictWords, fits: t`Fits here`, does_not_fit: t`Does not fit here` };

export const statusWords: Record<Check['status'], string> = {
  pass: t`pass`,
  note: t`note`,
  caution: t`caution`,
  unknown: t`unknown`,
  fail: t`fail`,
};

export const { baseWords, fastenerWords, languageWords, ruleWords, wallWords } = words;

/** What people call the choices of a policy whose names do not say it. */
export const schoolWords: Record<string, string> = {
  balanced: t`balanced`,
  deep: t`deep`,
  shallow: t`shallow`,
  centred: t`centred`,
  high: t`high`,
  limit: t`reject`,
  guidance: t`warn`,
  studs_only: t`studs only`,
  stud_and_anchors: t`one stud and anchors`,
  toggles_for_light: t`allow toggles (light loads)`,
  spirit_level: t`spirit level`,
  laser: t`line laser`,
  template: t`template`,
  tape: t`tape measure`,
  by_outlet: t`by the outlet`,
  before: t`before it hangs`,
  after: t`after it hangs`,
};

/** A word within a sentence, which in German keeps its first letter where it is a noun. */
export const within = (word: string) => (locale === 'en' ? word.charAt(0).toLowerCase() + word.slice(1) : word);

/** A verdict within a sentence. */
export const verdictWithin = (v: Verdict) => verdictWords[v].charAt(0).toLowerCase() + verdictWords[v].slice(1);

/** Where figures come from. */
export const originWords: Record<string, string> = { bench: t`measured`, sheet: t`data sheet`, caller: t`caller` };

/** What people call the entries of a document's lists. */
const entryWords: Record<string, string> = {
  kit: t`kit line`,
  zones: t`zone`,
  patterns: t`pattern`,
  holes: t`hole`,
  assembly: t`own step`,
  slots_mm: t`slot`,
  outlets: t`outlet`,
  trials: t`trial`,
  translations: t`translation`,
  parts: t`part`,
};

/** A figure in words, by its path in a document. */
export function figureName(path: string): string {
  const said = /^(origins|notes)\.(.*)$/.exec(path);
  if (said) return `${said[1] === 'origins' ? t`origin of the` : t`note on the`} ${figureName(said[2]!)}`;
  const last = path.slice(path.lastIndexOf('.') + 1);
  const row = /rows\.(top|bottom)/.exec(path);
  const entries = [...path.matchAll(/(\w+)\[(\d+)\]/g)].filter(([whole]) => whole !== 'patterns[0]');
  const where = (row ? (row[1] === 'top' ? t`, top row` : t`, bottom row`) : '') + entries.map(([, of, n]) => `, ${entryWords[of!] ?? of} ${Number(n) + 1}`).join('');
  if (last.endsWith(']')) return where.slice(2);
  return (words.figureWords[last] ?? words.figureWords[`${last}_mm`] ?? words.figureWords[`${last}_kg`] ?? last.replaceAll('_', ' ')) + where;
}

/** What people call the roles. */
export const roleWords: Record<string, string> = { reader: t`reader`, engineer: t`engineer`, approver: t`approver`, administrator: t`administrator` };

/** Why somebody may not do something, by the role it takes. */
export const lacksWords: Record<string, string> = { engineer: t`Engineers only.`, approver: t`Approvers only.`, administrator: t`Administrators only.` };

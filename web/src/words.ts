import type { Check, Verdict } from './api';

export const verdictWords: Record<Verdict, string> = {
  fits: 'Fits',
  fits_with_conditions: 'Fits with conditions',
  missing_data: 'Figures missing',
  does_not_fit: 'Does not fit',
};

export const statusWords: Record<Check['status'], string> = {
  pass: 'pass',
  caution: 'caution',
  unknown: 'unknown',
  fail: 'fail',
};

export { fastenerWords, ruleWords, wallWords } from './gen/words';

/** What people call the choices of a policy whose names do not say it. */
export const schoolWords: Record<string, string> = {
  limit: 'reject',
  guidance: 'warn',
  studs_only: 'studs only',
  stud_and_anchors: 'one stud and anchors',
  toggles_for_light: 'allow toggles (light loads)',
};

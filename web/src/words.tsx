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

/** Verdicts and statuses have a shape each, so that colour is not needed. */
export function Shape({ of }: { of: Verdict | Check['status'] }) {
  const path = {
    fits: 'M2 7.5 L5.5 11 L12 3',
    pass: 'M2 7.5 L5.5 11 L12 3',
    fits_with_conditions: 'M7 1.5 L13 12.5 L1 12.5 Z',
    caution: 'M7 1.5 L13 12.5 L1 12.5 Z',
    missing_data: 'M7 1 L13 7 L7 13 L1 7 Z',
    unknown: 'M7 1 L13 7 L7 13 L1 7 Z',
    does_not_fit: 'M2 2 L12 12 M12 2 L2 12',
    fail: 'M2 2 L12 12 M12 2 L2 12',
  }[of];
  return (
    <svg className={`shape ${of}`} viewBox="0 0 14 14" aria-hidden="true">
      <path d={path} fill="none" stroke="currentColor" strokeWidth="2.2" strokeLinejoin="round" strokeLinecap="round" />
    </svg>
  );
}

export function Stamp({ verdict }: { verdict: Verdict }) {
  return (
    <span className={`stamp ${verdict}`} data-verdict={verdict}>
      <Shape of={verdict} />
      {verdictWords[verdict]}
    </span>
  );
}

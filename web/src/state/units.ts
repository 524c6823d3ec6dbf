import { t } from '@lingui/core/macro';
import { locale } from '../i18n';
export type Units = 'mm' | 'in';

/** A number with the decimal sign of the page's language, which fields take as well as the point. */
export const decimal = (n: number, digits = 0) => n.toLocaleString(locale, { useGrouping: false, minimumFractionDigits: digits, maximumFractionDigits: 9 });

/** A length for a field: exact millimetres, or inches to the nearest 64th, as results are
    shown, on a wall to the nearest 16th, as a tape is read; what is not typed over stays exact. */
export function show(mm: number | undefined, units: Units, parts: 64 | 16 = 64): string {
  if (mm === undefined) return '';
  if (units === 'mm') return decimal(mm);
  const n = Math.round((mm / 25.4) * parts);
  let [over, under] = [Math.abs(n) % parts, parts as number];
  while (over > 0 && over % 2 === 0) [over, under] = [over / 2, under / 2];
  const whole = Math.floor(Math.abs(n) / parts);
  const text = over === 0 ? `${whole}` : whole === 0 ? `${over}/${under}` : `${whole} ${over}/${under}`;
  return n < 0 ? `-${text}` : text;
}

/** A mass for a field or a list: kilograms as they are; pounds as they were typed, to the hundredth, else to the tenth, as findings have
    it: a load is rounded up, what may be loaded down, by the path of the figure. What is not typed over stays exact. */
export function showMass(kg: number | undefined, units: Units, path: string): string {
  if (kg === undefined) return '';
  if (units === 'mm') return decimal(kg);
  const hundredths = (kg / 0.45359237) * 100;
  const typed = Math.abs(hundredths - Math.round(hundredths)) < 1e-3; // a document keeps a pound to 2e-4 of a hundredth
  if (typed) return decimal(Math.round(hundredths) / 100);
  return decimal((path.endsWith('rated_load_kg') ? Math.floor(hundredths / 10) : Math.ceil(hundredths / 10)) / 10);
}

/** The unit of a bare figure in a field, by what its path ends in; '' for what has none. */
export function unitOf(path: string, units: Units): string {
  if (path.endsWith('_mm')) return units;
  if (path.endsWith('_kg')) return units === 'in' ? 'lb' : 'kg';
  if (path.endsWith('_deg')) return '°';
  if (path.endsWith('_nm')) return 'N·m';
  if (path.endsWith('_n')) return 'N';
  return path.endsWith('_mpa') ? 'N/mm²' : '';
}

/** A figure of a document for reading, with its unit, by its path; a text as it is. */
export function shown(path: string, value: string, units: Units): string {
  const n = Number(value);
  if (value === '') return t`not known`;
  if (Number.isNaN(n) || unitOf(path, units) === '') return value;
  return `${path.endsWith('_mm') ? show(n, units) : path.endsWith('_kg') ? showMass(n, units, path) : value} ${unitOf(path, units)}`;
}

/** Whether a text says its unit itself. */
export const hasUnit = (text: string) => /[a-z"'″”′’°]/i.test(text);

/** What was typed, with the field's unit where it has none of its own. */
export function withUnit(text: string, unit: string): string {
  return hasUnit(text) ? text : `${text} ${unit}`;
}

/** Two decimals at the most, for figures in tables; never above what is there. */
export function least(mm: number, units: Units): string {
  if (units === 'mm') return decimal(Math.floor(mm * 10 + 1e-6) / 10, 1);
  const n = Math.floor((mm / 25.4) * 64 + 1e-6);
  return show((n / 64) * 25.4, 'in') + '″';
}

/** A plain figure moved by some millimetres, never below 0; undefined when the
    text is no plain figure. */
export function nudge(text: string, mm: number, units: Units): string | undefined {
  const plain = /^\s*(?:(\d+(?:[.,]\d+)?)|(?:(\d+)\s+)?(\d+)\/(\d+))?\s*$/.exec(text);
  if (!plain) return undefined;
  const value = plain[1] ? Number(plain[1].replace(',', '.')) : Number(plain[2] ?? 0) + (plain[3] ? Number(plain[3]) / Number(plain[4]) : 0);
  if (!Number.isFinite(value)) return undefined;
  if (units === 'mm') return decimal(Math.max(0, Math.round((value + mm) * 1000) / 1000));
  const step = Math.max(1, Math.round(Math.abs(mm) / 0.4)) * Math.sign(mm);
  return show(Math.max(0, Math.round(value * 64) + step) * (25.4 / 64), 'in');
}

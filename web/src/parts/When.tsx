import { regional } from '../i18n';
import { useSyncExternalStore } from 'react';

const every = 30_000; // ms after which what is said of the past is another

/** Runs on, as long as something on the page says how long ago something was. */
const runs = (changed: () => void) => {
  const timer = window.setInterval(changed, every);
  return () => window.clearInterval(timer);
};

/** The day of a moment, counted: yesterday is one less, whatever the hours. */
const dayOf = (at: number) => Math.round(new Date(at).setHours(12, 0, 0, 0) / 86_400_000);

/** How long ago a moment was, or is to be; its date, where that is a week or more. */
function spoken(at: number, now: number): string {
  const [minutes, days] = [(at - now) / 60_000, dayOf(at) - dayOf(now)];
  const ago = (n: number, unit: Intl.RelativeTimeFormatUnit) => new Intl.RelativeTimeFormat(regional, { numeric: 'auto' }).format(n, unit);
  if (Math.abs(days) >= 7) return new Intl.DateTimeFormat(regional, { dateStyle: 'medium' }).format(at);
  if (Math.abs(minutes) >= 720 && days !== 0) return ago(days, 'day');
  if (Math.abs(minutes) >= 60) return ago(Math.trunc(minutes / 60), 'hour');
  return Math.abs(minutes) >= 1 ? ago(Math.trunc(minutes), 'minute') : ago(0, 'second');
}

/** A moment, as people speak of it; exactly, where the pointer rests. */
export function When({ at }: { at?: string }) {
  const now = useSyncExternalStore(runs, () => Math.floor(Date.now() / every) * every);
  if (!at) return null;
  const moment = Date.parse(at);
  return (
    <time dateTime={at} title={new Intl.DateTimeFormat(regional, { dateStyle: 'full', timeStyle: 'medium' }).format(moment)}>
      <span className="spoken">{spoken(moment, Math.max(now, Math.min(moment, now + every)))}</span>
    </time>
  );
}

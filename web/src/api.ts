import { t } from '@lingui/core/macro';
import createClient from 'openapi-fetch';
import { at } from './base';
import { locale } from './i18n';
import type { components, paths } from './gen/api';

export type Schemas = components['schemas'];
export type Display = Schemas['Display'];
export type Bracket = Schemas['Bracket'];
export type Request = Schemas['Request'];
export type Site = Schemas['Job'];
export type BenchAnswer = Schemas['Bench'];
export type Check = Schemas['Check'];
export type Entry = Schemas['Entry'];
export type Problem = Schemas['Problem'];
export type Verdict = BenchAnswer['pairing']['verdict'];

/** What the server says is asked for in the page's language. */
export const inLanguage = { 'Accept-Language': locale };

export const api = createClient<paths>({ baseUrl: window.location.origin + at(''), headers: inLanguage });

/** What the server said was wrong, as an error. */
export class Refused extends Error {
  readonly problem: Problem;

  constructor(problem: Problem) {
    super([problem.title, problem.detail].filter(Boolean).join(' '));
    this.problem = problem;
  }
}

/** What is wrong with a figure, and what is allowed where that does not say it itself. */
export const faultOf = (p: { found: string; allowed?: string }) => p.found + (p.allowed && !p.found.includes('allowed:') ? t`; allowed: ${p.allowed}` : '');

export const unreachable: Problem = {
  type: 'about:blank',
  title: t`The server does not answer.`,
  detail: t`Check that it still runs, then try again.`,
  status: 0,
};

/** Takes the answer out of a call, or throws what was wrong. */
export async function answer<T>(call: Promise<{ data?: T; error?: unknown; response: Response }>): Promise<T> {
  let got;
  try {
    got = await call;
  } catch (e) {
    if (e instanceof DOMException && e.name === 'AbortError') throw e;
    throw new Refused(unreachable);
  }
  if (!got.response.ok) {
    const said = got.error as Partial<Problem> | undefined;
    throw new Refused(said?.title ? (said as Problem) : { ...unreachable, title: t`The server answered ${got.response.status}.` });
  }
  return got.data as T;
}

/** Asks for a file and hands it to the browser as a download. */
export async function download(path: string, request: Request, name: string) {
  const response = await fetch(at(path), {
    method: 'POST',
    headers: { 'Content-Type': 'application/json', ...inLanguage },
    body: JSON.stringify(request),
  }).catch(() => {
    throw new Refused(unreachable);
  });
  if (!response.ok) {
    throw new Refused((await response.json()) as Problem);
  }
  const link = document.createElement('a');
  link.href = URL.createObjectURL(await response.blob());
  link.download = /filename="([^"]+)"/.exec(response.headers.get('Content-Disposition') ?? '')?.[1] ?? name;
  link.click();
  setTimeout(() => URL.revokeObjectURL(link.href), 10_000);
}

import { i18n } from '@lingui/core';
import * as english from './gen/words.en';
import { compileMessage } from '@lingui/message-utils/compileMessage';

/** The page's languages, by what their speakers call them. */
export const languages = { en: 'English', de: 'Deutsch' } as const;
export type Locale = keyof typeof languages;

const settingAt = 'nexufix.language';
const known = (code: string | null | undefined): code is Locale => !!code && Object.hasOwn(languages, code);

/** Whoever sits here has set it, or their browser says it. */
const wanted = (): Locale => {
  const set = localStorage.getItem(settingAt);
  return known(set) ? set : (navigator.languages.map((l) => l.slice(0, 2)).find(known) ?? 'en');
};

export const locale = wanted();

/** As dates and numbers are written here: by the country, where the browser's is of the page's language. */
export const regional = navigator.languages.find((l) => l.slice(0, 2) === locale) ?? locale;

/** Puts the page into another language: it is loaded anew, as what a module says is made but once. */
export function speak(to: Locale) {
  localStorage.setItem(settingAt, to);
  window.location.reload();
}

/** Puts the page into the language that whoever is signed in has chosen. */
export function speakTo(them: string | undefined) {
  if (known(them) && them !== locale) speak(them);
}

// English texts stand in the sources as they are; those with figures in them are taken apart at their first use.
const compiled = new Map<string, ReturnType<typeof compileMessage>>();
i18n.setMessagesCompiler((text) => {
  let got = compiled.get(text);
  if (!got) compiled.set(text, (got = compileMessage(text)));
  return got;
});

document.documentElement.lang = locale;

/** The words of core's tables in the page's language. */
export const words: typeof english = locale === 'de' ? await import('./gen/words.de') : english;

i18n.loadAndActivate({ locale, locales: [regional, locale], messages: locale === 'de' ? (await import('./locales/de.po')).messages : {} });

import { t } from '@lingui/core/macro';
import Box from '@mui/material/Box';
import { answer, api } from '../api';
import { languages, locale, speak, type Locale } from '../i18n';
import { useMe } from '../people/me';
import { useTab } from '../state/workspace';
import { languageWords } from '../words';
import { Choice } from './Choice';

const codes = [locale, ...Object.keys(languageWords).filter((code) => code !== locale)];

/** The language that steps and sheets are written in, kept in the address. */
export function useLanguage() {
  return useTab('lang', codes);
}

/** Chooses the language of the page, which belongs to whoever is signed in, or else to this browser. */
export function Spoken() {
  const me = useMe().data;
  const choose = async (code: string) => {
    if (me?.id) await answer(api.POST('/api/own/language', { body: { language: code } })).catch(() => undefined); // it holds in this browser all the same
    speak(code as Locale);
  };
  return (
    <Box component="label" className="spoken-in" sx={{ display: 'flex', alignItems: 'center', gap: 2, mt: 2 }}>
      {t`Language`}
      <Choice label={t`Language of the page`} width={108} value={locale} options={Object.entries(languages)} onPick={(code) => void choose(code)} />
    </Box>
  );
}

/** Chooses the language of what is written; the page itself stays as it is. */
export function LanguageChoice({ value, onPick }: { value: string; onPick: (code: string) => void }) {
  return <Choice label={t`Written in`} width={108} value={value} options={Object.entries(languageWords)} onPick={onPick} />;
}

import { t } from '@lingui/core/macro';
import { useTab } from '../state/workspace';
import { languageWords } from '../words';
import { Choice } from './Choice';

const codes = Object.keys(languageWords);

/** The language that steps and sheets are written in, kept in the address. */
export function useLanguage() {
  return useTab('lang', codes);
}

/** Chooses the language of what is written; the page itself stays as it is. */
export function LanguageChoice({ value, onPick }: { value: string; onPick: (code: string) => void }) {
  return <Choice label={t`Written in`} width={108} value={value} options={Object.entries(languageWords)} onPick={onPick} />;
}

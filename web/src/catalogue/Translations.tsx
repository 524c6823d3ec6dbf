import { t } from '@lingui/core/macro';
import Box from '@mui/material/Box';
import TextField from '@mui/material/TextField';
import { useState } from 'react';
import type { Bracket, Schemas } from '../api';
import { Choice } from '../parts/Choice';
import { Hint, Quick } from '../parts/Page';
import { Press } from '../parts/Press';
import { languageWords } from '../words';
import type { Editing } from './editing';
import { useValue } from './fields';

type Translation = Schemas['Translation'];

const others = Object.entries(languageWords).filter(([code]) => code !== 'en');

/** A bracket's own texts in another language: what is printed of them in its packs. */
export function Translations({ edit }: { edit: Editing<Bracket> }) {
  const doc = edit.doc!;
  const [code, setCode] = useState(others[0]?.[0] ?? '');
  const all = (useValue(edit.acts, 'translations') ?? []) as Translation[];
  const own = texts(doc);
  const stale = all.filter((t) => t.language === code && !own.includes(t.of));
  const set = (next: Translation[]) => edit.acts.set('translations', next.length > 0 ? next : null);
  const say = (of: string, text: string) => {
    const said = all.some((t) => t.language === code && t.of === of) ? all : [...all, { language: code, of, text }];
    set(said.map((t) => (t.language === code && t.of === of ? { ...t, text } : t)).filter((t) => t.text !== ''));
  };
  return (
    <>
      <Hint>{t`What a pack in another language says in place of this bracket’s own texts; figures stay in their braces. What is left empty is printed in English.`}</Hint>
      {others.length > 1 && <Choice label={t`Language of the texts`} width={160} value={code} options={others} onPick={setCode} />}
      {own.map((of) => {
        const at = all.findIndex((t) => t.language === code && t.of === of);
        const wrong = at < 0 ? undefined : edit.errors[`translations[${at}].text`];
        return (
          <Box component="label" key={of} className="translation" sx={{ display: 'block', mt: 1.5, color: 'text.secondary' }}>
            {of}
            <TextField
              multiline
              fullWidth
              size="small"
              placeholder={t`in English`}
              value={all[at]?.text ?? ''}
              error={Boolean(wrong)}
              helperText={wrong}
              onChange={(e) => say(of, e.target.value.replaceAll('\n', ' '))}
              slotProps={{ htmlInput: { lang: code, 'aria-label': `${languageWords[code]}: ${of}` } }}
            />
          </Box>
        );
      })}
      {stale.length > 0 && (
        <Quick>
          <Press onClick={() => set(all.filter((t) => !stale.includes(t)))}>{t`Take out ${stale.length} of texts that are no longer here`}</Press>
        </Quick>
      )}
    </>
  );
}

/** The texts that are the bracket's own, each once. */
function texts(doc: Bracket): string[] {
  const steps = (doc.assembly ?? []).flatMap((s) => [s.title, s.text, s.check, s.caution, ...(s.tools ?? [])]);
  const all = [...steps, ...(doc.settings ?? []).map((s) => s.text), doc.lock?.kind, ...(doc.kit ?? []).map((k) => k.name)];
  return [...new Set(all.filter((t): t is string => Boolean(t)))];
}

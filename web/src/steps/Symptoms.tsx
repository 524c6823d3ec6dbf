import { t } from '@lingui/core/macro';
import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import { useState } from 'react';
import { useQuery } from '@tanstack/react-query';
import { answer, api, type Schemas } from '../api';
import { Choice } from '../parts/Choice';
import { Head, Hint } from '../parts/Page';
import { useRequest } from '../state/judged';

/** What may be behind something that is wrong, with this pairing's own figures: for the caller of
    next week. */
export function Symptoms({ symptoms, eager }: { symptoms: Schemas['Symptom'][]; eager?: boolean }) {
  const [of, setOf] = useState('');
  const shown = symptoms.find((s) => s.id === of);
  return (
    <section className="symptoms" aria-label={t`When something is wrong`}>
      <Head>{t`When something is wrong`}</Head>
      <Choice label={t`What is wrong`} pick="symptom" autoFocus={eager} value={of} options={[['', t`pick what the caller sees`], ...symptoms.map((s) => [s.id, s.name] as const)]} onPick={setOf} />
      <Box aria-live="polite" sx={{ mt: 1.5 }}>
        {shown?.stop && (
          <Alert severity="error" icon={false} sx={{ mb: 1 }}>
            <b>{shown.stop}</b>
          </Alert>
        )}
        {shown && (
          <Box component="ol" sx={{ pl: 4, my: 0, '& li': { mb: 1.5, lineHeight: 1.3 } }}>
            {shown.causes.map((c) => (
              <li key={c.what}>
                <b>{c.what}</b> {c.look} <Box sx={{ color: 'text.secondary' }}>{t`Else: ${c.do}`}</Box>
              </li>
            ))}
          </Box>
        )}
        {!shown && <Hint>{t`Causes in the order to look at them, with what is right here.`}</Hint>}
      </Box>
    </section>
  );
}

/** The same on the bench. */
export function Wrong({ eager }: { eager: boolean }) {
  const request = useRequest();
  const steps = useQuery({
    queryKey: ['steps', 'symptoms', request],
    gcTime: 20_000,
    enabled: request !== undefined,
    queryFn: ({ signal }) => answer(api.POST('/api/steps', { body: request!, params: { query: { format: 'json' } }, signal })) as Promise<Schemas['Sequence']>,
    placeholderData: (last) => last,
  });
  return (
    <Box sx={{ mt: 2 }}>
      {steps.data && steps.data.symptoms.length > 0 && <Symptoms symptoms={steps.data.symptoms} eager={eager} />}
      {steps.data && steps.data.symptoms.length === 0 && <Hint>{t`Nothing of this hangs: it does not fit, or a figure is missing.`}</Hint>}
      {steps.error && <Hint live="status">{steps.error.message}</Hint>}
    </Box>
  );
}

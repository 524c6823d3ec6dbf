import { t } from '@lingui/core/macro';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { at } from '../base';
import { answer, api, Refused, faultOf, type Schemas } from '../api';
import { FieldError, Head, Hint, Quick } from '../parts/Page';
import { Press } from '../parts/Press';
import { may, useMe } from '../people/me';
import { useNotice } from '../shell/notice';
import { sheetWords } from './parts';
import { When } from '../parts/When';

type Document = Schemas['IssuedLine'];

/** What was issued, who has it, and the letters about it: those that were sent, and the one that is ready. */
export function Documents({ issued, letters, current }: { issued: Document[]; letters: Schemas['Letter'][]; current: boolean }) {
  const me = useMe().data;
  const [open, setOpen] = useState<number>();
  if (issued.length === 0) return null;
  return (
    <section data-part="issued">
      <Head>{current ? t`Issued` : t`Who has it`}</Head>
      {!current && <Hint>{t`It is not said to be current. Whoever has it is to know: a letter is ready.`}</Hint>}
      {issued.map((i) => (
        <Box key={i.id} data-issued={i.number} sx={{ mb: 1.5 }}>
          <a href={at(`/api/issued/${i.id}`)}>{i.number}</a> {t`${sheetWords[i.what]}, revision ${i.revision}, to ${i.receiver}:`}{' '}
          <a href={at(`/v/${i.code}`)} target="_blank" rel="noreferrer">
            {t`status page`}
          </a>
          {' · '}
          <a href={at(`/api/issued/${i.id}/release`)}>{t`signed figures`}</a>
          {may(me, 'engineer') && (
            <Press aria-expanded={open === i.id} onClick={() => setOpen(open === i.id ? undefined : i.id)} sx={{ ml: 2 }}>
              {current ? t`Send it` : t`Write to them`}
            </Press>
          )}
          {letters
            .filter((l) => l.issued === i.id)
            .map((l) => (
              <Box key={l.id} className="letter" sx={{ fontSize: 13, color: 'text.secondary' }}>
                {l.recall ? t`Taken back` : t`Sent`}: {l.mail}, <When at={l.at} />, {l.who}
              </Box>
            ))}
          {open === i.id && <Write document={i} done={() => setOpen(undefined)} />}
        </Box>
      ))}
    </section>
  );
}

function Write({ document, done }: { document: Document; done: () => void }) {
  const queries = useQueryClient();
  const tell = useNotice();
  const params = { path: { id: document.id } };
  const ready = useQuery({ queryKey: ['review', 'letter', document.id], queryFn: ({ signal }) => answer(api.GET('/api/issued/{id}/letter', { params, signal })) });
  const [typed, setTyped] = useState<{ mail?: string; text?: string }>({});
  const letter = ready.data;
  const mail = typed.mail ?? letter?.mail ?? '';
  const text = typed.text ?? letter?.text ?? '';
  const send = useMutation({
    mutationFn: () => answer(api.POST('/api/issued/{id}/send', { params, body: { mail, text, recall: letter!.recall } })),
    onSuccess: (l) => {
      tell({ text: t`${l.number}: sent to ${l.mail}.` });
      void queries.invalidateQueries({ queryKey: ['review'] });
      done();
    },
  });
  if (!letter) return null;
  const wrong = send.error instanceof Refused ? send.error.problem.problems?.find((p) => p.path === 'mail') : undefined;
  return (
    <Box className="write" sx={{ borderLeft: 3, borderColor: 'primary.main', pl: 2, my: 1 }}>
      <Hint>
        {letter.subject}
        {!letter.recall && t`, with ${document.name}`}
      </Hint>
      <TextField
        fullWidth
        autoFocus
        size="small"
        placeholder={t`Mail address`}
        value={mail}
        error={Boolean(wrong)}
        helperText={wrong && t`It ${faultOf(wrong)}.`}
        onChange={(e) => setTyped({ ...typed, mail: e.target.value })}
        slotProps={{ htmlInput: { 'aria-label': t`Mail address`, maxLength: 200 } }}
      />
      <TextField
        multiline
        fullWidth
        size="small"
        value={text}
        onChange={(e) => setTyped({ ...typed, text: e.target.value })}
        sx={{ mt: 1 }}
        slotProps={{ htmlInput: { 'aria-label': 'Letter', maxLength: 5000 } }}
      />
      <Quick>
        <Button variant="contained" disabled={!mail.trim()} loading={send.isPending} onClick={() => send.mutate()}>
          {t`Send`}
        </Button>
        <Hint>{t`To the simulated mail desk: a file in the folder mail.`}</Hint>
      </Quick>
      {send.error && !wrong && <FieldError>{send.error.message}</FieldError>}
    </Box>
  );
}

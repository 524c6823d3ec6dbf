import { t } from '@lingui/core/macro';
import Box from '@mui/material/Box';
import { styled } from '@mui/material/styles';
import { useState } from 'react';
import { at } from '../base';
import { Refused, unreachable, type Problem, type Schemas, inLanguage } from '../api';
import { FileButton } from '../parts/FileButton';
import { FieldError, Quick } from '../parts/Page';
import { Remove } from '../parts/Press';
import { ShortField } from '../parts/ShortField';
import { change } from './changes';

const Figure = styled('figure')(({ theme }) => ({
  '& img': { display: 'block', width: '100%', height: 'auto', maxHeight: 420, objectFit: 'contain' },
  '& figcaption': { color: theme.vars!.palette.text.secondary, fontSize: 13, paddingTop: 4 },
}));

const source = (id: string) => at(`/api/photos/${id}`);

/** The photographs of a step. */
export function Photos({ photos }: { photos: Schemas['Shown'][] | undefined }) {
  return photos?.map((p) => (
    <Figure key={p.id} className="photo">
      <img src={source(p.id)} alt={p.shows || t`Photograph`} />
      {p.shows && <figcaption>{p.shows}</figcaption>}
    </Figure>
  ));
}

/** What is wrong with a file, and what is taken. */
function wrong(e: Error): string {
  const first = e instanceof Refused ? e.problem.problems?.[0] : undefined;
  return first ? t`The file ${first.found}. Take ${first.allowed ?? ''}.` : e.message;
}

/** Sends a photograph; the server makes it small and strips it. */
async function send(file: File): Promise<string> {
  const got = await fetch(at('/api/photos'), { method: 'POST', headers: { 'Content-Type': 'application/octet-stream', ...inLanguage }, body: file }).catch(() => {
    throw new Refused(unreachable);
  });
  if (!got.ok) throw new Refused((await got.json()) as Problem);
  return ((await got.json()) as Schemas['Photo']).id;
}

/** Attaches photographs to a step, and takes them off again. */
export function PhotoEditor({ step, changes }: { step: Schemas['Step']; changes: Schemas['StepChange'][] }) {
  const [shows, setShows] = useState('');
  const [failed, setFailed] = useState('');
  const [sending, setSending] = useState(false);
  const mine = changes.filter((c) => c.step === step.id && c.what === 'photo');
  const attach = (file: File) => {
    setFailed('');
    setSending(true);
    send(file)
      .then((photo) => {
        change((all) => [...all, { step: step.id, what: 'photo', photo, ...(shows.trim() && { title: shows.trim().slice(0, 80) }) }]);
        setShows('');
      })
      .catch((e: Error) => setFailed(wrong(e)))
      .finally(() => setSending(false));
  };
  return (
    <>
      <Quick>
        <ShortField label={t`What a photograph shows`} value={shows} onChange={setShows} width={300} maxLength={80} />
        <FileButton label={t`Photograph of ${step.title}`} accept="image/jpeg,image/png" variant="outlined" busy={sending} onFile={attach}>
          {t`Attach a photograph`}
        </FileButton>
      </Quick>
      {failed && <FieldError>{failed}</FieldError>}
      {mine.length > 0 && (
        <Quick>
          {mine.map((c) => (
            <Box component="span" key={c.photo} sx={{ display: 'inline-flex', alignItems: 'center', gap: 1, mr: 2 }}>
              <Box component="img" src={source(c.photo!)} alt="" sx={{ height: 44 }} />
              {c.title || t`Photograph`}
              <Remove what={c.title || t`the photograph`} act={() => change((all) => all.filter((x) => !(x.what === 'photo' && x.step === c.step && x.photo === c.photo)))} />
            </Box>
          ))}
        </Quick>
      )}
    </>
  );
}

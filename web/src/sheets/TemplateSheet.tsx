import Alert from '@mui/material/Alert';
import Button from '@mui/material/Button';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { api, answer, download, Refused } from '../api';
import { useDesk } from '../asking';
import { useJudged, useQuestion } from '../judged';
import { NoPairing, SheetHead } from './Sheet';

/** The drilling template, as it will be printed. */
export function TemplateSheet() {
  const { units } = useDesk();
  const question = useQuestion();
  const judged = useJudged();
  const [failed, setFailed] = useState('');
  const [paper, setPaper] = useState('sheet');
  const drawing = useQuery({
    queryKey: ['template', question],
    enabled: question !== undefined,
    queryFn: ({ signal }) => answer(api.POST('/api/template', { body: question!, params: { query: { format: 'page' } }, parseAs: 'text', signal })),
    placeholderData: keepPreviousData,
  });
  if (!judged.data || !question) return <NoPairing error={judged.error} />;
  const get = (format: string) => () => {
    setFailed('');
    download(`/api/template?format=${format}&paper=${paper}`, question, `template.${format}`).catch((e: Error) => setFailed(e.message));
  };
  const none = drawing.error instanceof Refused;
  return (
    <main className={`sheet units-${units}`}>
      <SheetHead judged={judged.data}>
        <label className="hint">
          PDF on{' '}
          <select className="figure-field words" style={{ width: 150 }} value={paper} onChange={(e) => setPaper(e.target.value)}>
            <option value="sheet">one sheet at its size</option>
            <option value="a4">pages of A4</option>
            <option value="letter">pages of Letter</option>
            <option value="a3">pages of A3</option>
          </select>
        </label>
        <Button size="small" color="inherit" disabled={none} onClick={get('svg')}>
          SVG
        </Button>
        <Button size="small" color="inherit" disabled={none} onClick={get('dxf')}>
          DXF
        </Button>
        <Button size="small" variant="contained" disabled={none} autoFocus onClick={get('pdf')}>
          Template PDF
        </Button>
      </SheetHead>
      {failed && <Alert severity="error">{failed}</Alert>}
      {drawing.error && <Alert severity="warning">{drawing.error.message}</Alert>}
      {drawing.data && !drawing.error && (
        <>
          <p className="hint">
            At full size, 1:1, on one sheet or on pages that are joined at their crosses. Print it at 100 %, not fitted to the page, and measure both bars before use. It is for no particular wall: find the studs first.
          </p>
          <figure className="template-page" aria-label="Drilling template" dangerouslySetInnerHTML={{ __html: drawing.data }} />
        </>
      )}
    </main>
  );
}

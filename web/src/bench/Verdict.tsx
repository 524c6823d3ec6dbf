import Button from '@mui/material/Button';
import { useState } from 'react';
import { Link, useLocation } from 'react-router';
import { download, type BenchAnswer } from '../api';
import { useDesk } from '../state/desk';
import { useQuestion, useSiteQuestion } from '../state/judged';
import { useSave } from '../saved/saving';
import { Stamp } from '../words';

/** The answer in one line, and what to take away. */
export function Verdict({ judged, stale }: { judged: BenchAnswer; stale: boolean }) {
  const question = useQuestion();
  const onSite = useSiteQuestion(); // the same sheet as on the template's page
  const { search } = useLocation();
  const { canUndo, undo } = useDesk();
  const save = useSave();
  const [failed, setFailed] = useState('');
  return (
    <div className="verdict" aria-live="polite" data-stale={stale ? 'yes' : 'no'}>
      <Stamp verdict={judged.pairing.verdict} />
      <span className="gist">
        {gist(judged)}
        {failed && <span className="field-error"> {failed}</span>}
      </span>
      <span className="grow" />
      {canUndo && (
        <Button size="small" color="inherit" onClick={undo} title="Undo the last change (z)">
          Undo
        </Button>
      )}
      <Button size="small" color="inherit" component={Link} to={{ pathname: '/steps', search }} title="The step sequence (s)">
        Steps
      </Button>
      <Button size="small" color="inherit" component={Link} to={{ pathname: '/template', search }} title="Look at the template (t)">
        Template
      </Button>
      <Button
        size="small"
        variant="outlined"
        disabled={!judged.template || stale}
        title={judged.template ? 'Download the drilling template at full size' : 'There is no template for this pairing'}
        onClick={() => {
          setFailed('');
          if (onSite) download('/api/template?format=pdf', onSite, 'template.pdf').catch((e: Error) => setFailed(e.message));
        }}
      >
        Template PDF
      </Button>
      <Button size="small" variant="contained" disabled={stale || save.isPending} title="Save this pairing (Ctrl+S)" onClick={() => question && save.mutate(question)}>
        Save
      </Button>
    </div>
  );
}

/** The one thing to say about the answer. */
function gist(j: BenchAnswer): string {
  const worst = j.pairing.checks[0];
  const out: string[] = [];
  if (j.pairing.verdict === 'does_not_fit' || j.pairing.verdict === 'missing_data') out.push(worst?.text ?? '');
  else if (j.send) out.push(`Send ${j.send}.`);
  else if (worst && worst.status !== 'pass') out.push(worst.text);
  else out.push('The bag has all that is needed.');
  if (j.heights) out.push(j.heights.text);
  return out.join(' ');
}

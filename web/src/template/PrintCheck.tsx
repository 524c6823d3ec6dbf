import { t } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import { useState } from 'react';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { submits } from '../parts/form';
import { answer, api, Refused, faultOf } from '../api';
import { Choice } from '../parts/Choice';
import { Head, PlainList } from '../parts/Page';
import { FigureLine, FigureList, QuantityInput } from '../parts/QuantityField';
import { Shape, statusColour } from '../parts/Verdict';
import { useWorkspace } from '../state/workspace';
import { withUnit } from '../state/units';
import type { Sent } from './Plotter';
import { When } from '../parts/When';

const bars = [
  [100, '100 mm'],
  [101.6, '4 in'],
] as const;

/** The printed bar as it was measured: the print is accepted, or not and why.
    With a job that is saved, the answer is saved with it. */
export function PrintCheck({ paper }: { paper: Sent['paper'] }) {
  const { inputs, ask, units } = useWorkspace();
  const queries = useQueryClient();
  const [bar, setBar] = useState(units === 'mm' ? 100 : 101.6);
  const [measured, setMeasured] = useState('');
  const job = inputs.site?.id || undefined;
  const check = useMutation({
    mutationFn: () => {
      const body = { job, bar_mm: bar, measured: withUnit(measured, units), paper, units };
      return answer(api.POST('/api/prints', { body: body as unknown as { bar_mm: number; measured_mm: number } }));
    },
    onSuccess: (a) => {
      if (!a.saved?.job) return;
      void queries.invalidateQueries({ queryKey: ['jobs'] });
      ask((now) => ({ site: { ...now.site!, prints: a.saved!.job!.prints }, siteRevision: a.saved!.revision }));
    },
  });
  const wrong = check.error instanceof Refused ? (check.error.problem.problems?.map((p) => faultOf(p)).join(' ') ?? check.error.message) : check.error?.message;
  const prints = inputs.site?.prints ?? [];
  const submit = submits(() => measured.trim() && check.mutate());
  return (
    <Box component="section" aria-label={t`Check the print`} sx={{ mt: 3.5 }}>
      <Head>{t`Check the print`}</Head>
      <form className="print-check" onSubmit={submit}>
        <FigureList>
          <FigureLine label={t`The bar of`}>
            <Choice label={t`Bar`} value={bar} options={bars} onPick={(b) => setBar(Number(b))} />
          </FigureLine>
          <FigureLine label={t`measures`}>
            <QuantityInput label={t`Measured`} text={measured} unit={units} placeholder={units} step={0} error={wrong} onText={setMeasured} />
          </FigureLine>
        </FigureList>
        <Button type="submit" variant="outlined" disabled={!measured.trim()} loading={check.isPending} sx={{ mt: 1 }}>
          {t`Check`}
        </Button>
      </form>
      {check.data && !wrong && (
        <Box component="p" role="status" data-print={check.data.accepted ? 'accepted' : 'refused'} sx={{ color: statusColour[check.data.accepted ? 'pass' : 'fail'] }}>
          <Shape of={check.data.accepted ? 'pass' : 'fail'} /> {check.data.text} {check.data.saved ? t`Saved with job ${job!}.` : t`Not saved: save the wall as a job first.`}
        </Box>
      )}
      {prints.length > 0 && (
        <PlainList sx={{ color: 'text.secondary', fontSize: 13 }}>
          {prints
            .slice(-3)
            .reverse()
            .map((p) => (
              <li key={p.at}>
                <Trans>
                  <When at={p.at} />: {p.measured_mm} of {p.bar_mm} mm
                </Trans>
                , {p.accepted ? t`accepted` : t`not accepted`}
                {p.who && `, ${p.who}`}
              </li>
            ))}
        </PlainList>
      )}
    </Box>
  );
}

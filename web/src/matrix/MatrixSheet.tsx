import { t } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import LinearProgress from '@mui/material/LinearProgress';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { at } from '../base';
import { Choice } from '../parts/Choice';
import { Grow, Hint, Nothing, Page, Tools } from '../parts/Page';
import { Go, Press } from '../parts/Press';
import { QuantityInput } from '../parts/QuantityField';
import { useWorkspace, useTab } from '../state/workspace';
import { nothing } from '../state/inputs';
import { ruleWords, within } from '../words';
import { useMatrix, type Matrix } from './matrix';
import { Picture, type Order } from './Picture';
import { Why, type Asked } from './Why';

/** All displays by all brackets, as a picture. */
export function MatrixSheet() {
  const { matrix, error, stopped, stop } = useMatrix();
  const [typed, setTyped] = useState('');
  const [sort, setSort] = useTab<Order>('order', ['fewest', 'reason', 'name']);
  const [only, setOnly] = useState('');
  const [asked, setAsked] = useState<Asked>();
  const { askThere } = useWorkspace();
  const go = useNavigate();
  const open = (row: number, column: number) => {
    const display = matrix?.head.displays[row];
    const bracket = matrix?.head.brackets[column];
    if (!display || !bracket) return;
    askThere({ ...nothing, display: display.id, bracket: bracket.id });
    void go('/');
  };
  const empty = matrix !== undefined && (matrix.head.displays.length === 0 || matrix.head.brackets.length === 0);
  const judging = !error && !stopped && !matrix?.end;
  return (
    <Page className="matrix" sx={{ display: 'flex', flexDirection: 'column' }}>
      <Tools className="tools">
        <Typography variant="h1">{t`Matrix`}</Typography>
        {matrix && !empty && <Summary matrix={matrix} />}
        <Grow />
        <Button color="inherit" component="a" href={at('/api/matrix.csv')} download="matrix.csv">
          {t`CSV`}
        </Button>
        <Button color="inherit" component="a" href={at('/api/matrix.xlsx')} download="matrix.xlsx">
          {t`XLSX`}
        </Button>
      </Tools>
      {error && <Alert severity="error">{error.message}</Alert>}
      {judging && (
        <LinearProgress aria-label={t`Judging`} variant={matrix ? 'determinate' : 'indeterminate'} value={matrix ? (100 * matrix.judged) / Math.max(1, matrix.head.displays.length) : undefined} />
      )}
      {matrix && !matrix.end && !error && (
        <Hint live="status">
          {stopped ? t`Stopped. ${matrix.judged} of ${matrix.head.displays.length} displays` : t`Judging: ${matrix.judged} of ${matrix.head.displays.length} displays`}{' '}
          {!stopped && <Press onClick={stop}>{t`Stop`}</Press>}
        </Hint>
      )}
      {empty && (
        <Nothing>
          <p>{t`There is nothing to compare: the catalogue has no ${matrix.head.displays.length === 0 ? 'displays' : 'brackets'} yet.`}</p>
          <p>
            <Go to="/catalogue/import">{t`Import a file`}</Go>
          </p>
        </Nothing>
      )}
      {matrix && !empty && (
        <>
          <Tools className="tools" sx={{ mb: 1.5 }}>
            <QuantityInput label={t`Only displays named`} words width={200} placeholder={t`Only displays named…`} text={typed} onText={setTyped} />
            <Choice
              label={t`Order of the displays`}
              width={190}
              value={sort}
              options={[
                ['fewest', t`Fewest brackets first`],
                ['reason', t`Grouped by reason`],
                ['name', t`By name`],
              ]}
              onPick={(to) => setSort(to as Order)}
            />
            <Choice
              label={t`Which displays`}
              width={250}
              value={only}
              options={[
                ['', t`All displays`],
                ['none', t`Those that nothing fits`],
                ['near', t`Those that miss by one thing`],
                ['one', t`Those that one bracket fits`],
                ['left', t`Not covered by the top three`],
                ...matrix.head.rules.filter(Boolean).map((r) => [`rule:${r}`, t`Fails on: ${within(ruleWords[r] ?? r)}`] as const),
              ]}
              onPick={setOnly}
            />
          </Tools>
          <Box sx={{ display: 'flex', flex: 1, minHeight: 0, gap: 4, flexDirection: { xs: 'column', md: 'row' } }}>
            <Picture matrix={matrix} typed={typed} sort={sort} only={only} open={open} why={setAsked} />
            {asked && <Why matrix={matrix} asked={asked} open={open} close={() => setAsked(undefined)} />}
          </Box>
        </>
      )}
    </Page>
  );
}

/** Which three brackets take most, and what is left. */
function Summary({ matrix }: { matrix: Matrix }) {
  if (!matrix.end) return null;
  const { cover, left } = matrix.end;
  const all = matrix.head.displays.length;
  if (cover.length === 0) return <span>{t`No bracket takes any of the ${all} displays.`}</span>;
  return (
    <span data-cover={cover.length}>
      <Trans>
        <b>{cover.map((i) => matrix.head.brackets[i]?.name).join(', ')}</b> take {all - left.length} of {all} displays; {left.length} are left.
      </Trans>
      {matrix.end.not_tried && ` ${matrix.end.not_tried}`}
    </span>
  );
}

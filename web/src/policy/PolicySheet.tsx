import { t } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Skeleton from '@mui/material/Skeleton';
import { styled } from '@mui/material/styles';
import Typography from '@mui/material/Typography';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useRef } from 'react';
import { answer, api, Refused, faultOf, type Schemas } from '../api';
import { Applied } from '../parts/Applied';
import { Choice } from '../parts/Choice';
import { FieldError, Grow, Head, Hint, Page, Tools } from '../parts/Page';
import { QuantityInput } from '../parts/QuantityField';
import { useKept } from '../state/drafts';
import { foreign } from '../state/inputs';
import { useNotice } from '../shell/notice';
import { Allowed } from '../people/Allowed';
import { useLacks } from '../people/me';
import { useCommands } from '../state/commands';
import { useWorkspace } from '../state/workspace';
import type { Typed } from '../state/inputs';
import { decimal, show, unitOf, withUnit } from '../state/units';
import { schoolWords } from '../words';

type Policy = Schemas['Policy'];
type Setting = keyof Policy;

// Settings by what they are about, with what they mean.
const settings: [string, [Setting, string][]][] = [
  [
    t`Bolts`,
    [
      ['bolt_school', t`Of safe lengths, take the`],
      ['engagement_min_d', t`Thread engaged, at least, in diameters`],
      ['engagement_worst_d', t`Thread engaged, worst case, in diameters`],
      ['tip_clearance_min_mm', t`Tip clearance, at least`],
      ['tip_clearance_worst_mm', t`Tip clearance, worst case, at least`],
      ['max_washers', t`Washers on one bolt, at most`],
      ['washer_overlap_mm', t`Washers and spacers wider than the slot by`],
    ],
  ],
  [
    t`Spacers and lean`,
    [
      ['max_stacked_spacers', t`Spacers on one bolt, at most`],
      ['stock_spacers_mm', t`Lengths in stock, mm`],
      ['stock_spacer_outer_mm', t`Width of those in stock`],
      ['arm_clearance_mm', t`Arms off the display’s back, at least`],
      ['lean_ok_deg', t`Lean that does not show`],
      ['lean_max_deg', t`Lean, at most`],
      ['twist_ok_mm', t`Twist of the corners that does not show`],
      ['twist_max_mm', t`Twist, at most`],
    ],
  ],
  [
    t`Walls`,
    [
      ['wall_school', t`No stud here`],
      ['stud_find_mm', t`A stud’s middle is known to`],
      ['handling_n', t`People lean on an arm with, N (0: not looked at)`],
      ['handling_public_n', t`And in public places, N`],
    ],
  ],
  [
    t`Steps`,
    [
      ['marking_school', t`Holes are marked`],
      ['level_school', t`Level`],
      ['cables_school', t`Cables are plugged in`],
      ['stand_school', t`The stand comes off`],
    ],
  ],
  [
    t`Bracket and lift`,
    [
      ['arm_school', t`Of arm positions, take the`],
      ['size_school', t`Screen size over range`],
      ['reveal_mm', t`Arms end inside the outline by`],
      ['load_caution', t`Caution above this share of the rated load`],
      ['two_people_diagonal_mm', t`Two people above a diagonal of`],
    ],
  ],
];

const choices: Partial<Record<Setting, string[]>> = {
  bolt_school: ['balanced', 'deep', 'shallow'],
  arm_school: ['centred', 'high'],
  size_school: ['limit', 'guidance'],
  wall_school: ['studs_only', 'stud_and_anchors', 'toggles_for_light'],
  marking_school: ['template', 'tape'],
  level_school: ['spirit_level', 'laser'],
  cables_school: ['by_outlet', 'before', 'after'],
  stand_school: ['before', 'after'],
};

const Columns = styled('div')({ display: 'grid', gridTemplateColumns: 'repeat(auto-fit, minmax(330px, 1fr))', gap: '4px 32px', marginBottom: 14 });
const Lines = styled('div')(({ theme }) => ({
  display: 'grid',
  gridTemplateColumns: 'minmax(0, 1fr) 34%',
  gap: '3px 10px',
  alignItems: 'center',
  '& > span': { color: theme.vars!.palette.text.secondary, lineHeight: 1.2 },
  '& > .whole': { gridColumn: '1 / -1' },
}));

/** The company's policy: how careful, and which schools. Saved by name. */
export function PolicySheet() {
  const company = useQuery({ queryKey: ['policies'], queryFn: ({ signal }) => answer(api.GET('/api/policies', { signal })) });
  if (company.data) return <Form company={company.data} />;
  return (
    <Page>
      <Typography variant="h1">{t`Policy`}</Typography>
      {company.error ? <Alert severity="error">{company.error.message}</Alert> : <Skeleton variant="rectangular" height={320} />}
    </Page>
  );
}

interface Filled {
  name?: string; // as it is in use, where none was typed
  typed: Partial<Record<Setting, Typed>>;
}

const unfilled: Filled = { typed: {} };

function Form({ company }: { company: Schemas['CompanyPolicy'] }) {
  const { units } = useWorkspace();
  const queries = useQueryClient();
  const tell = useNotice();
  const [{ name = company.name, typed }, fill] = useKept<Filled>('policy', unfilled);
  const form = useRef<HTMLFormElement>(null);
  const lacks = useLacks('policy');
  useCommands(t`Policy`, [
    { key: 'z', does: t`undo the setting that was changed last`, run: () => fill({ name, typed: Object.fromEntries(Object.entries(typed).slice(0, -1)) }) },
    { key: 'mod+s', does: t`save the policy and use it`, run: () => name.trim() && !lacks && form.current?.requestSubmit() },
  ]);

  const stands = (from: Policy, s: Setting): string => {
    const v = from[s];
    if (Array.isArray(v)) return v.join(', ');
    return s.endsWith('_mm') ? show(v as number | undefined, units) : typeof v === 'number' ? decimal(v) : String(v ?? '');
  };
  const after = (said: string) => (next: Schemas['CompanyPolicy']) => {
    queries.setQueryData(['policies'], next);
    void queries.invalidateQueries({ predicate: (q) => q.queryKey[0] !== 'policies' }); // everything is judged by it
    fill(unfilled);
    tell({ text: said, action: { name: t`Undo`, act: () => use.mutate(company.name) } });
  };
  const use = useMutation({
    mutationFn: (n: string) => answer(api.POST('/api/policies/use', { body: { name: n } })),
    onSuccess: (next) => after(next.name ? t`In use: ${next.name}.` : t`The defaults are in use.`)(next),
    onError: (e) => tell({ text: e.message }),
  });
  const save = useMutation({
    mutationFn: (filled: Filled) => {
      const changes = (Object.entries(filled.typed) as [Setting, Typed][]).map(([s, { text, unit }]) => ({
        path: `policy.${s}`,
        to:
          s === 'stock_spacers_mm'
            ? text
                .split(/[,;\s]+/)
                .filter(Boolean)
                .map((one) => withUnit(one, 'mm'))
            : s.endsWith('_mm') && text.trim()
              ? withUnit(text, unit)
              : text,
      }));
      return answer(api.PUT('/api/policies', { body: { name: filled.name ?? company.name, changes, units } }));
    },
    onSuccess: (next) => after(t`Saved and in use: ${next.name}.`)(next),
  });
  const wrong: Record<string, string> = Object.fromEntries(
    (save.error instanceof Refused ? (save.error.problem.problems ?? []) : []).map((p) => [p.path.replace('policy.', '').replace(/\[\d+\]$/, ''), faultOf(p)]),
  );
  const field = (s: Setting, words: string) => {
    const mine = typed[s];
    const value = mine ? (s.endsWith('_mm') && s !== 'stock_spacers_mm' && mine.unit !== units ? foreign(mine) : mine.text) : stands(company.policy, s);
    const set = (text: string) => {
      const others = Object.fromEntries(Object.entries(typed).filter(([name]) => name !== s)); // the latest last
      fill({ name, typed: { ...others, [s]: { text, unit: units } } });
    };
    const changed = value !== stands(company.defaults, s);
    const list = choices[s];
    if (list) return <Choice label={words} setting={s} changed={changed} value={value} options={list.map((c) => [c, schoolWords[c] ?? c])} onPick={set} />;
    return (
      <QuantityInput
        label={words}
        setting={s}
        changed={changed}
        text={value}
        unit={s === 'stock_spacers_mm' ? undefined : unitOf(s, units)}
        words={s === 'stock_spacers_mm'}
        error={wrong[s]}
        onText={set}
      />
    );
  };
  return (
    <Page className="policy">
      <Tools className="tools">
        <Typography variant="h1">{t`Policy`}</Typography>
        <span>
          <Trans>
            In use: <b>{company.name || t`the defaults`}</b>
          </Trans>
        </span>
        <Grow />
        <Applied
          label={t`Use a saved policy`}
          width={200}
          value={company.name}
          options={[['', t`the defaults`], ...company.saved.map((k) => [k.name, k.name] as const)]}
          disabled={Boolean(lacks)}
          busy={use.isPending}
          onApply={(n) => use.mutate(n)}
        />
      </Tools>
      <Hint>{t`Where practitioners disagree, a company follows one school and keeps to it. What differs from the defaults is marked. Saved pairings keep the policy they were judged by.`}</Hint>
      {save.error && !(save.error instanceof Refused && save.error.problem.problems) && <Alert severity="error">{save.error.message}</Alert>}
      <form
        ref={form}
        onSubmit={(e) => {
          e.preventDefault();
          save.mutate({ name, typed });
        }}
      >
        <Columns>
          {settings.map(([group, list]) => (
            <section key={group} aria-label={group}>
              <Head>{group}</Head>
              <Lines>
                {list.map(([s, words]) => [
                  <span key={`${s} is`} className={s === 'stock_spacers_mm' ? 'whole' : ''}>
                    {words}
                  </span>,
                  <div key={s} className={s === 'stock_spacers_mm' ? 'whole' : ''}>
                    {field(s, words)}
                  </div>,
                ])}
              </Lines>
            </section>
          ))}
        </Columns>
        <Tools>
          <Box component="span">{t`Save as`}</Box>
          <QuantityInput label={t`Save as`} words width={220} text={name} placeholder={t`a name`} error={wrong['name']} errorAt="policy-name-error" onText={(text) => fill({ name: text, typed })} />
          <Allowed act="policy">
            <Button type="submit" variant="contained" disabled={!name.trim()} loading={save.isPending}>
              {t`Save and use`}
            </Button>
          </Allowed>
          {wrong['name'] && <FieldError id="policy-name-error">{wrong['name']}</FieldError>}
        </Tools>
      </form>
    </Page>
  );
}

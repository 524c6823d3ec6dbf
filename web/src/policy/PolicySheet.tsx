import Alert from '@mui/material/Alert';
import Button from '@mui/material/Button';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useRef, useState } from 'react';
import { answer, api, Refused, type Schemas } from '../api';
import { useDesk } from '../state/desk';
import { foreign } from '../parts/QuantityField';
import type { Typed } from '../state/question';
import { useKeys } from '../state/commands';
import { show, withUnit } from '../state/units';
import { schoolWords } from '../words';
import { useNotice } from '../shell/notice';

type Policy = Schemas['Policy'];
type Setting = keyof Policy;

// Settings by what they are about, with what they mean.
const settings: [string, [Setting, string][]][] = [
  [
    'Bolts',
    [
      ['bolt_school', 'Of safe lengths, take the'],
      ['engagement_min_d', 'Thread engaged, at least, in diameters'],
      ['engagement_worst_d', 'Thread engaged, worst case, in diameters'],
      ['tip_clearance_min_mm', 'Tip clearance, at least'],
      ['tip_clearance_worst_mm', 'Tip clearance, worst case, at least'],
      ['max_washers', 'Washers on one bolt, at most'],
      ['washer_overlap_mm', 'Washers and spacers wider than the slot by'],
    ],
  ],
  [
    'Spacers and lean',
    [
      ['max_stacked_spacers', 'Spacers on one bolt, at most'],
      ['stock_spacers_mm', 'Lengths in stock, mm'],
      ['stock_spacer_outer_mm', 'Width of those in stock'],
      ['arm_clearance_mm', 'Arms off the display’s back, at least'],
      ['lean_ok_deg', 'Lean that does not show'],
      ['lean_max_deg', 'Lean, at most'],
      ['twist_ok_mm', 'Twist of the corners that does not show'],
      ['twist_max_mm', 'Twist, at most'],
    ],
  ],
  [
    'Walls',
    [
      ['wall_school', 'No stud here'],
      ['stud_find_mm', 'A stud’s middle is known to'],
      ['handling_n', 'People lean on an arm with, N (0: not looked at)'],
      ['handling_public_n', 'And in public places, N'],
    ],
  ],
  [
    'Bracket and lift',
    [
      ['arm_school', 'Of arm positions, take the'],
      ['size_school', 'Screen size over range'],
      ['reveal_mm', 'Arms end inside the outline by'],
      ['load_caution', 'Caution above this share of the rated load'],
      ['two_people_diagonal_mm', 'Two people above a diagonal of'],
    ],
  ],
];

const choices: Partial<Record<Setting, string[]>> = {
  bolt_school: ['balanced', 'deep', 'shallow'],
  arm_school: ['centred', 'high'],
  size_school: ['limit', 'guidance'],
  wall_school: ['studs_only', 'stud_and_anchors', 'toggles_for_light'],
};

/** The house's policy: how careful, and which schools. Kept by name. */
export function PolicySheet() {
  const house = useQuery({ queryKey: ['policies'], queryFn: ({ signal }) => answer(api.GET('/api/policies', { signal })) });
  if (house.error) {
    return (
      <main className="sheet">
        <Alert severity="error">{house.error.message}</Alert>
      </main>
    );
  }
  return house.data ? <Form key={house.data.name + JSON.stringify(house.data.policy)} house={house.data} /> : <main className="sheet" />;
}

function Form({ house }: { house: Schemas['CompanyPolicy'] }) {
  const { units } = useDesk();
  const queries = useQueryClient();
  const tell = useNotice();
  const [name, setName] = useState(house.name);
  const [typed, setTyped] = useState<Partial<Record<Setting, Typed>>>({});
  const form = useRef<HTMLFormElement>(null);
  useKeys({ 'mod+s': () => name.trim() && form.current?.requestSubmit() });

  const stands = (from: Policy, s: Setting): string => {
    const v = from[s];
    if (Array.isArray(v)) return v.join(', ');
    return s.endsWith('_mm') ? show(v as number | undefined, units) : String(v ?? '');
  };
  const after = (said: string) => (next: Schemas['CompanyPolicy']) => {
    queries.setQueryData(['policies'], next);
    void queries.invalidateQueries({ predicate: (q) => q.queryKey[0] !== 'policies' }); // everything is judged by it
    tell({ text: said, action: { name: 'Undo', act: () => use.mutate(house.name) } });
  };
  const use = useMutation({
    mutationFn: (n: string) => answer(api.POST('/api/policies/use', { body: { name: n } })),
    onSuccess: (next) => after(next.name ? `In use: ${next.name}.` : 'The defaults are in use.')(next),
    onError: (e) => tell({ text: e.message }),
  });
  const keep = useMutation({
    mutationFn: () => {
      const policy: Record<string, unknown> = { ...house.policy };
      for (const [s, { text, unit }] of Object.entries(typed) as [Setting, Typed][]) {
        const numeric = Number(text.replace(',', '.'));
        if (choices[s]) policy[s] = text;
        else if (s === 'stock_spacers_mm') policy[s] = text.split(/[,;\s]+/).filter(Boolean).map((one) => (Number.isFinite(Number(one)) ? Number(one) : one));
        else if (s.endsWith('_mm')) {
          delete policy[s];
          policy[s.replace(/_mm$/, '')] = withUnit(text, unit);
        } else policy[s] = text.trim() && Number.isFinite(numeric) ? numeric : text;
      }
      return answer(api.PUT('/api/policies', { body: { name, policy: policy as Policy } }));
    },
    onSuccess: (next) => after(`Saved and in use: ${next.name}.`)(next),
  });
  const wrong = Object.fromEntries(
    (keep.error instanceof Refused ? (keep.error.problem.problems ?? []) : []).map((p) => [p.path.replace('policy.', '').replace(/_(mm|deg)$/, ''), `${p.found}; allowed: ${p.allowed ?? ''}`]),
  );
  const field = (s: Setting, words: string) => {
    const mine = typed[s];
    const value = mine ? (s.endsWith('_mm') && s !== 'stock_spacers_mm' && mine.unit !== units ? foreign(mine) : mine.text) : stands(house.policy, s);
    const set = (text: string) => setTyped((old) => ({ ...old, [s]: { text, unit: units } }));
    const odd = value !== stands(house.defaults, s) ? ' changed' : '';
    const list = choices[s];
    return list ? (
      <select className={'figure-field' + odd} aria-label={words} data-setting={s} value={value} onChange={(e) => set(e.target.value)}>
        {list.map((c) => (
          <option key={c} value={c}>
            {schoolWords[c] ?? c}
          </option>
        ))}
      </select>
    ) : (
      <input className={'figure-field' + odd} aria-label={words} data-setting={s} aria-invalid={wrong[s.replace(/_(mm|deg)$/, '')] ? true : undefined} value={value} onChange={(e) => set(e.target.value)} />
    );
  };
  return (
    <main className="sheet policy">
      <div className="tools">
        <h1>Policy</h1>
        <span>
          In use: <b>{house.name || 'the defaults'}</b>
        </span>
        <span className="grow" />
        <select className="figure-field words" style={{ width: 200 }} aria-label="Use a saved policy" value={house.name} onChange={(e) => use.mutate(e.target.value)}>
          <option value="">the defaults</option>
          {house.saved.map((k) => (
            <option key={k.name}>{k.name}</option>
          ))}
        </select>
      </div>
      <p className="hint">
        Where practitioners disagree, a company follows one school and keeps to it. What differs from the defaults is marked. Saved pairings keep the policy they were judged by.
      </p>
      {keep.error && !(keep.error instanceof Refused && keep.error.problem.problems) && <Alert severity="error">{keep.error.message}</Alert>}
      <form
        ref={form}
        onSubmit={(e) => {
          e.preventDefault();
          keep.mutate();
        }}
      >
        <div className="policy-columns">
          {settings.map(([group, list]) => (
            <section key={group}>
              <h2>{group}</h2>
              <table className="pull">
                <tbody>
                  {list.map(([s, words]) => (
                    <tr key={s}>
                      <th scope="row">
                        {words}
                        {wrong[s.replace(/_(mm|deg)$/, '')] && <span className="field-error"> {wrong[s.replace(/_(mm|deg)$/, '')]}</span>}
                      </th>
                      <td>{field(s, words)}</td>
                    </tr>
                  ))}
                </tbody>
              </table>
            </section>
          ))}
        </div>
        <p className="tools">
          <label>
            Save as{' '}
            <input className="figure-field words" style={{ width: 220 }} value={name} placeholder="a name" onChange={(e) => setName(e.target.value)} />
          </label>
          <Button type="submit" size="small" variant="contained" disabled={!name.trim() || keep.isPending}>
            Save and use
          </Button>
          {wrong['name'] && <span className="field-error">{wrong['name']}</span>}
        </p>
      </form>
    </main>
  );
}

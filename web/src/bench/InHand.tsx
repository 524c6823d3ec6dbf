import { t } from '@lingui/core/macro';
import Box from '@mui/material/Box';
import { useQuery } from '@tanstack/react-query';
import { useTyped } from '../parts/form';
import { answer, api, Refused, type BenchAnswer, type Request, type Schemas } from '../api';
import { FieldError, Hint } from '../parts/Page';
import { FigureLine, FigureList, QuantityInput, selectAll } from '../parts/QuantityField';
import { Shape } from '../parts/Verdict';
import { useWorkspace } from '../state/workspace';
import { decimal, withUnit } from '../state/units';

/** Parts that a caller has in hand: are they safe, and by how much? Sizes of
    parts are metric by name; another unit can be written. */
export function InHand({ judged, request }: { judged: BenchAnswer; request?: Request }) {
  const { units } = useWorkspace();
  const first = judged.pairing.stack?.groups[0];
  const { typed: hand, put } = useTyped({
    bolt: first ? decimal(first.bolt.length_mm) : '',
    washers: String(first?.washers.count ?? 1),
    thickness: first?.washers.thickness_mm === undefined ? '' : decimal(first.washers.thickness_mm),
    outer: first?.washers.outer_mm === undefined ? '' : decimal(first.washers.outer_mm),
    shoulder: '',
    spacers: first?.spacers_mm.map((mm) => decimal(mm)).join(' + ') ?? '',
    wide: '',
  });
  const mm = (text: string) => (text.trim() ? withUnit(text, 'mm') : undefined);
  // What cannot be read is said and never left out: without a part the rest may look safe.
  const unread: string[] = [];
  const named = /^\s*(M\d+)\s*[x×*]\s*(.+)$/i.exec(hand.bolt); // as on its bag: M6x16
  const thread = judged.display.patterns?.[judged.pattern_index]?.thread;
  if (named && named[1]!.toUpperCase() !== thread) unread.push(t`bolt: the display takes ${thread ?? t`a thread that is not known`}, not ${named[1]!.toUpperCase()}`);
  if (!/^\s*\d+\s*$/.test(hand.washers)) unread.push(t`washers: how many, in figures`);
  const lengths = hand.spacers.trim() === '' ? [] : hand.spacers.split(/\+|&|;|\band\b/i).map((s) => s.trim());
  if (lengths.some((s) => !/^\d+(?:[.,]\d+)?\s*(?:mm)?$/.test(s))) unread.push(t`spacers: their lengths in mm, as 10 + 5`);
  const spacers = lengths.map((s) => parseFloat(s.replace(',', '.')));
  const parts = {
    bolt: mm(named ? named[2]! : hand.bolt),
    washers: Number(hand.washers),
    thickness: mm(hand.thickness),
    outer: mm(hand.outer),
    shoulder_washer: mm(hand.shoulder),
    spacers_mm: spacers.length > 0 ? spacers : undefined,
    spacer_outer: mm(hand.wide),
  };
  const told = useQuery({
    queryKey: [t`by hand`, request, parts, units],
    enabled: request !== undefined && parts.bolt !== undefined && unread.length === 0,
    queryFn: ({ signal }) => answer(api.POST('/api/stack', { body: { request: request!, hand: parts as unknown as Schemas['GivenParts'] }, signal })),
    placeholderData: (last) => last,
  });
  const wrong = told.error instanceof Refused ? (told.error.problem.problems ?? []) : [];
  const field = (name: keyof typeof hand, label: string, placeholder = '', unit: string | undefined = 'mm') => (
    <FigureLine label={label}>
      <QuantityInput
        label={label}
        text={hand[name]}
        unit={unit}
        step={0}
        placeholder={placeholder}
        pick={name === 'bolt' ? 'hand' : undefined}
        autoFocus={name === 'bolt'}
        onFocus={selectAll}
        onText={(text) => put({ [name]: text })}
      />
    </FigureLine>
  );
  return (
    <Box component="section" className="call" aria-label={t`Parts in hand`} sx={{ mt: 2 }}>
      <Hint>{t`The parts a caller has: are they safe at each hole, and by how much?`}</Hint>
      <FigureList>
        {field('bolt', t`Bolt, long`)}
        {field('washers', t`Washers`, '', '')}
        {field('thickness', t`Washers, thick`, 'ISO')}
        {field('outer', t`Washers, wide`, 'ISO')}
        {field('shoulder', t`Shoulder washer`, t`none`)}
        {field('spacers', t`Spacers`, '10 + 5')}
        {field('wide', t`Spacers, wide`, '18')}
      </FigureList>
      {unread.map((text) => (
        <FieldError key={text}>{text}</FieldError>
      ))}
      {unread.length === 0 &&
        wrong.map((p) => (
          <FieldError key={p.path}>
            {p.path.replace('hand.', '').replaceAll('_', ' ')}: {p.found}
          </FieldError>
        ))}
      {unread.length === 0 && told.data?.length === 0 && <Hint>{t`The pattern, the thread and its depth are needed first.`}</Hint>}
      {unread.length === 0 &&
        told.data?.map((g) => (
          <Box key={g.holes.join()} component="p" className="in-hand" data-status={g.status} sx={{ my: 2, lineHeight: 1.3, fontSize: 14 }}>
            <Shape of={g.status === 'ok' ? 'pass' : g.status === 'caution' ? 'caution' : 'fail'} /> <b>{g.holes.join(' ')}</b> {g.text}
          </Box>
        ))}
    </Box>
  );
}

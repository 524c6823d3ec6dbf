import { t } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import Alert from '@mui/material/Alert';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import Skeleton from '@mui/material/Skeleton';
import { styled } from '@mui/material/styles';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import { answer, api, download, Refused } from '../api';
import { Choice } from '../parts/Choice';
import { Standing } from '../review/Standing';
import { Head, Hint, Page, Side } from '../parts/Page';
import { Go } from '../parts/Press';
import { LanguageChoice, useLanguage } from '../parts/Language';
import { NoPairing, Refusal, SheetHead } from '../parts/Sheet';
import { Few, panelOf, Tabs } from '../parts/Tabs';
import { useCommands } from '../state/commands';
import { useWorkspace, useTab } from '../state/workspace';
import { useJudged, useRequest } from '../state/judged';
import { Plotter, usePlot, type Sent } from './Plotter';
import { PrintCheck } from './PrintCheck';

const shows = [
  ['outline', t`outline of the display`],
  [t`studs`, t`studs`],
  ['plate', t`wall plate`],
  ['holes', t`holes that are not drilled`],
  ['hook', t`hook line`],
  ['figures', t`coordinates of the holes`],
] as const;

const papers: [Sent['paper'], string][] = [
  ['sheet', t`one sheet at its size`],
  ['a4', t`pages of A4`],
  ['letter', t`pages of Letter`],
  ['a3', t`pages of A3`],
];

const cardPapers: [Sent['paper'], string][] = [
  ['sheet', t`a page of A4 or longer`],
  ['a4', t`a page of A4`],
  ['letter', t`a page of Letter`],
  ['a3', t`a page of A3`],
];

const zooms = [
  ['0', t`fitted`],
  ['0.25', '1:4'],
  ['0.5', '1:2'],
  ['1', '1:1'],
] as const;

const Columns = styled('div')(({ theme }) => ({
  flex: 1,
  minHeight: 0,
  display: 'grid',
  gridTemplateColumns: 'minmax(0, 1fr) 290px',
  gap: 14,
  margin: '0 -18px -14px 0',
  [theme.breakpoints.down('md')]: { gridTemplateColumns: '1fr', overflow: 'auto' },
}));

const Sheet = styled('section')(({ theme }) => ({
  background: theme.vars!.palette.background.paper,
  border: `1px solid ${theme.vars!.palette.divider}`,
  margin: '0 0 14px',
  minHeight: 0,
  overflow: 'auto',
  '& svg': { display: 'block', width: '100%', height: 'auto', maxWidth: '100%', maxHeight: '100%', margin: 'auto' },
  '&[aria-label="Measure card"] svg': { maxWidth: 780, maxHeight: 'none' },
}));

/** The drilling template and the measure card, as they will be printed. */
export function TemplateSheet() {
  const { inputs, units } = useWorkspace();
  const request = useRequest();
  const judged = useJudged();
  const [failed, setFailed] = useState('');
  const [paper, setPaper] = useTab<Sent['paper']>('paper', ['sheet', 'a4', 'letter', 'a3']);
  const [what, setWhat] = useTab<Sent['what']>('sheet', ['template', 'card']);
  const [hidden, setHidden] = useState<string[]>([]);
  const [whole, setWhole] = useState(false);
  const [lang, setLang] = useLanguage();
  const sent: Sent = { what, paper, hide: what === 'card' ? '' : hidden.join(','), outline: whole ? 'whole' : undefined, lang };
  const drawing = useQuery({
    queryKey: ['template', request, sent],
    gcTime: 20_000,
    enabled: request !== undefined,
    queryFn: ({ signal }) => answer(api.POST('/api/template', { body: request!, params: { query: { format: 'page', ...sent } }, parseAs: 'text', signal })),
    placeholderData: keepPreviousData,
  });
  const page = useRef<HTMLElement>(null);
  const [zoom, setZoom] = useState(0); // of full size; 0 fits it in
  useEffect(() => {
    const svg = page.current?.querySelector('svg');
    if (!svg) return;
    svg.style.width = zoom ? `${svg.viewBox.baseVal.width * zoom}mm` : '';
    svg.style.height = zoom ? 'auto' : '';
    svg.style.maxWidth = svg.style.maxHeight = zoom ? 'none' : '';
  }, [zoom, drawing.data, what]);
  usePrintedPage(page, drawing.data);
  const plot = usePlot(request);
  useCommands(t`Template and card`, [{ key: 'm', does: t`the other sheet`, run: () => setWhat(what === 'card' ? 'template' : 'card') }]);
  if (!judged.data || !request) return <NoPairing error={judged.error} waiting={judged.isFetching} />;
  const get = (format: string, more?: Record<string, string>) => () => {
    setFailed('');
    const query = new URLSearchParams({ format, paper: sent.paper, what: sent.what, hide: sent.hide, lang, ...(sent.outline && { outline: sent.outline }), ...more });
    download(`/api/template?${query}`, request, `template.${format}`).catch((e: Error) => setFailed(e.message));
  };
  const none = drawing.error instanceof Refused;
  return (
    <Page className={`units-${units}`} sx={{ display: 'flex', flexDirection: 'column', overflow: { md: 'hidden' } }}>
      <SheetHead judged={judged.data} state={judged.state}>
        <Tabs
          label={t`Sheet`}
          of="sheet"
          value={what}
          tabs={[
            ['template', t`Template`, t`The other sheet (m)`],
            ['card', t`Measure card`, t`The other sheet (m)`],
          ]}
          onPick={setWhat}
        />
        <LanguageChoice value={lang} onPick={setLang} />
        <Choice label={t`PDF on`} width={190} value={paper} options={what === 'card' ? cardPapers : papers} onPick={(to) => setPaper(to as Sent['paper'])} />
        <Button color="inherit" disabled={none} onClick={get('svg')}>
          {t`SVG`}
        </Button>
        <Button color="inherit" disabled={none} onClick={get('dxf')}>
          {t`DXF`}
        </Button>
        <Button color="inherit" disabled={none} onClick={get('dxf', { machine: 'yes' })} title={t`One circle a hole on the layer DRILL, which a machine drills once each`}>
          {t`DXF for a machine`}
        </Button>
        <Button color="inherit" disabled={none} onClick={() => window.print()} title={t`On a printer that takes a page of this size`}>
          {t`Print`}
        </Button>
        <Button color="inherit" disabled={none} loading={plot.isPending} data-act="plot" onClick={() => plot.mutate(sent)}>
          {t`Plot`}
        </Button>
        <Button variant="contained" disabled={none} autoFocus onClick={get('pdf')}>
          {what === 'card' ? t`Card PDF` : t`Template PDF`}
        </Button>
      </SheetHead>
      {failed && <Alert severity="error">{failed}</Alert>}
      {drawing.error && <Refusal error={drawing.error} />}
      {inputs.site && drawing.data && !drawing.error && !drawing.data.includes('data-tag="point.') && what === 'template' && (
        <Alert severity="warning">{t`The wall that is set up does not take it: there is nothing to drill on it. The wall’s findings say why.`}</Alert>
      )}
      {drawing.isLoading && <Skeleton variant="rectangular" sx={{ flex: 1, height: 'auto', mr: 4.5, mb: 3.5 }} />}
      {drawing.data && !drawing.error && (
        <Columns className="page-and-aside">
          <Sheet
            ref={page}
            {...panelOf('sheet', what)}
            tabIndex={0}
            className="template-page"
            aria-label={what === 'card' ? t`Measure card` : t`Drilling template`}
            dangerouslySetInnerHTML={{ __html: drawing.data }}
          />
          <Side className="side right" aria-label={t`The print`}>
            <Head>{t`For`}</Head>
            <Hint>
              {inputs.site ? (
                <>
                  {inputs.site.id ? t`Job ${inputs.site.id}` : t`The wall that is set up`}: <Go to="/wall">{t`to the wall`}</Go>.
                </>
              ) : (
                <>
                  <Trans>
                    No particular wall. <Go to="/wall">Describe the wall</Go>, and the points to drill are on it.
                  </Trans>
                </>
              )}
            </Hint>
            {inputs.site?.id && inputs.siteRevision > 0 && <Standing subject={{ job: inputs.site.id }} revision={inputs.siteRevision} />}
            <Head>{t`On the screen`}</Head>
            <Few label={t`Size on the screen`} of="zoom" value={String(zoom)} tabs={zooms} onPick={(z) => setZoom(Number(z))} />
            {what === 'template' && (
              <>
                <Head>{t`Shown`}</Head>
                {shows.map(([part, name]) => (
                  <FormControlLabel
                    key={part}
                    sx={{ display: 'flex' }}
                    control={<Checkbox data-show={part} checked={!hidden.includes(part)} onChange={(e) => setHidden((h) => (e.target.checked ? h.filter((p) => p !== part) : [...h, part]))} />}
                    label={name}
                  />
                ))}
                {paper !== 'sheet' && (
                  <FormControlLabel control={<Checkbox data-show="whole" checked={whole} onChange={(e) => setWhole(e.target.checked)} />} label={t`the whole outline, on more pages`} />
                )}
                <Hint>{t`At full size, 1:1. Print it at 100 %, not fitted to the page; pages are joined at their crosses.`}</Hint>
                <PrintCheck paper={paper} />
              </>
            )}
            <Plotter />
          </Side>
        </Columns>
      )}
    </Page>
  );
}

/** Makes the browser's print view a page of the drawing's own size, so that it
    is the PDF's. */
function usePrintedPage(page: React.RefObject<HTMLElement | null>, svg: string | undefined) {
  useEffect(() => {
    const box = page.current?.querySelector('svg')?.viewBox.baseVal;
    if (!box) return;
    const sheet = new CSSStyleSheet();
    sheet.replaceSync(`@page { size: ${box.width}mm ${box.height}mm; margin: 0 }
      @media print { .template-page svg { width: ${box.width}mm !important; height: ${box.height}mm !important; max-width: none !important; max-height: none !important }
        .page-and-aside .template-page { height: ${box.height - 0.3}mm; overflow: hidden } }`);
    document.adoptedStyleSheets = [...document.adoptedStyleSheets, sheet];
    return () => {
      document.adoptedStyleSheets = document.adoptedStyleSheets.filter((s) => s !== sheet);
    };
  }, [page, svg]);
}

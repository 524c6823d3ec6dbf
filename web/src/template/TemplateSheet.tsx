import Alert from '@mui/material/Alert';
import Button from '@mui/material/Button';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import { Link } from 'react-router';
import { api, answer, download, Refused } from '../api';
import { useDesk } from '../state/desk';
import { useJudged, useSiteQuestion } from '../state/judged';
import { useKeys } from '../state/commands';
import { Plotter, usePlot, type Sent } from './Plotter';
import { PrintCheck } from './PrintCheck';
import { NoPairing, Refusal, SheetHead } from '../parts/Sheet';

const shows = [
  ['outline', 'outline of the display'],
  ['studs', 'studs'],
  ['plate', 'wall plate'],
  ['holes', 'holes that are not drilled'],
  ['hook', 'hook line'],
  ['figures', 'coordinates of the holes'],
] as const;

/** The drilling template and the measure card, as they will be printed. */
export function TemplateSheet() {
  const { asking, units } = useDesk();
  const question = useSiteQuestion();
  const judged = useJudged();
  const [failed, setFailed] = useState('');
  const [paper, setPaper] = useState<Sent['paper']>('sheet');
  const [what, setWhat] = useState<Sent['what']>('template');
  const [hidden, setHidden] = useState<string[]>([]);
  const [whole, setWhole] = useState(false);
  const sent: Sent = { what, paper: what === 'card' ? 'sheet' : paper, hide: what === 'card' ? '' : hidden.join(','), outline: whole ? 'whole' : undefined };
  const drawing = useQuery({
    queryKey: ['template', question, sent],
    enabled: question !== undefined,
    queryFn: ({ signal }) => answer(api.POST('/api/template', { body: question!, params: { query: { format: 'page', ...sent } }, parseAs: 'text', signal })),
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
  const plot = usePlot(question);
  useKeys({ m: () => setWhat(what === 'card' ? 'template' : 'card') });
  if (!judged.data || !question) return <NoPairing error={judged.error} />;
  const get = (format: string) => () => {
    setFailed('');
    const query = new URLSearchParams({ format, paper: sent.paper, what: sent.what, hide: sent.hide, ...(sent.outline && { outline: sent.outline }) });
    download(`/api/template?${query}`, question, `template.${format}`).catch((e: Error) => setFailed(e.message));
  };
  const none = drawing.error instanceof Refused;
  return (
    <main className={`sheet with-aside units-${units}`}>
      <SheetHead judged={judged.data}>
        <span className="tabs" role="group" aria-label="Sheet">
          <button type="button" className="tab" aria-pressed={what === 'template'} data-sheet="template" title="The other sheet (m)" onClick={() => setWhat('template')}>
            Template
          </button>
          <button type="button" className="tab" aria-pressed={what === 'card'} data-sheet="card" title="The other sheet (m)" onClick={() => setWhat('card')}>
            Measure card
          </button>
        </span>
        {what === 'template' && (
          <select className="figure-field words paper" aria-label="PDF on" value={paper} onChange={(e) => setPaper(e.target.value as Sent['paper'])}>
            <option value="sheet">one sheet at its size</option>
            <option value="a4">pages of A4</option>
            <option value="letter">pages of Letter</option>
            <option value="a3">pages of A3</option>
          </select>
        )}
        <Button size="small" color="inherit" disabled={none} onClick={get('svg')}>
          SVG
        </Button>
        <Button size="small" color="inherit" disabled={none} onClick={get('dxf')}>
          DXF
        </Button>
        <Button size="small" color="inherit" disabled={none} onClick={() => window.print()} title="On a printer that takes a page of this size">
          Print
        </Button>
        <Button size="small" color="inherit" disabled={none || plot.isPending} data-act="plot" onClick={() => plot.mutate(sent)}>
          Plot
        </Button>
        <Button size="small" variant="contained" disabled={none} autoFocus onClick={get('pdf')}>
          {what === 'card' ? 'Card PDF' : 'Template PDF'}
        </Button>
      </SheetHead>
      {failed && <Alert severity="error">{failed}</Alert>}
      {drawing.error && <Refusal error={drawing.error} />}
      {asking.site && drawing.data && !drawing.error && !drawing.data.includes('data-tag="point.') && what === 'template' && (
        <Alert severity="warning">The wall that is set up does not take it: this is the template for no particular wall. The wall’s findings say why.</Alert>
      )}
      {drawing.data && !drawing.error && (
        <div className="page-and-aside">
          <figure ref={page} tabIndex={0} className="template-page" aria-label={what === 'card' ? 'Measure card' : 'Drilling template'} dangerouslySetInnerHTML={{ __html: drawing.data }} />
          <aside className="side right" aria-label="The print">
            <h2>For</h2>
            <p className="hint">
              {asking.site ? (
                <>
                  {asking.site.id ? `Job ${asking.site.id}` : 'The wall that is set up'}: see <Link to={{ pathname: '/wall', search: window.location.search }}>the wall</Link>.
                </>
              ) : (
                <>
                  No particular wall. <Link to={{ pathname: '/wall', search: window.location.search }}>Describe the wall</Link>, and the points to drill are on it.
                </>
              )}
            </p>
            <h2>On the screen</h2>
            <p className="quick" role="group" aria-label="Size on the screen">
              {(
                [
                  ['fitted', 0],
                  ['1:4', 0.25],
                  ['1:2', 0.5],
                  ['1:1', 1],
                ] as const
              ).map(([name, z]) => (
                <button key={name} type="button" className="tab" aria-pressed={zoom === z} data-zoom={name} onClick={() => setZoom(z)}>
                  {name}
                </button>
              ))}
            </p>
            {what === 'template' && (
              <>
                <h2>Shown</h2>
                {shows.map(([part, name]) => (
                  <label key={part} className="tick">
                    <input type="checkbox" data-show={part} checked={!hidden.includes(part)} onChange={(e) => setHidden((h) => (e.target.checked ? h.filter((p) => p !== part) : [...h, part]))} /> {name}
                  </label>
                ))}
                {paper !== 'sheet' && (
                  <label className="tick">
                    <input type="checkbox" data-show="whole" checked={whole} onChange={(e) => setWhole(e.target.checked)} /> the whole outline, on more pages
                  </label>
                )}
                <p className="hint">At full size, 1:1. Print it at 100 %, not fitted to the page; pages are joined at their crosses.</p>
                <PrintCheck paper={paper} />
              </>
            )}
            <Plotter />
          </aside>
        </div>
      )}
    </main>
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

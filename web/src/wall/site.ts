import { t } from '@lingui/core/macro';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { answer, api, Refused, faultOf, type BenchAnswer, type Request, type Schemas, type Site } from '../api';
import { useWorkspace } from '../state/workspace';
import { opened, type Wall } from '../state/inputs';
import type { Units } from '../state/units';
import { useNotice } from '../shell/notice';
import { figureName } from '../words';

export type WallView = Schemas['WallView'];
export type Thing = Schemas['Movable'];

/** Walls to begin with. Every figure is to be measured. */
export const starters: [string, Wall, Partial<NonNullable<Site['wall']>>][] = [
  [t`Wood studs 16 in apart`, 'wood_stud', { covering_mm: 12.5, studs: { first_mm: 200, spacing_mm: 406.4, width_mm: 38.1 } }],
  [t`Wood studs 600 mm apart`, 'wood_stud', { covering_mm: 12.5, studs: { first_mm: 200, spacing_mm: 600, width_mm: 38 } }],
  [t`Metal studs 600 mm apart`, 'metal_stud', { covering_mm: 12.5, studs: { first_mm: 200, spacing_mm: 600, width_mm: 48 } }],
  [t`Concrete`, 'concrete', { covering_mm: 0 }],
  [t`Block or brick`, 'block', { covering_mm: 0 }],
];

/** How large a wall to begin with is, and how high the centre for people who sit (common
    practice), in round figures of either system. */
const beginning = {
  mm: { size: t`3 m wide and 2.5 m high`, width_mm: 3000, height_mm: 2500, center_mm: 1070 },
  in: { size: t`10 ft wide and 8 ft high`, width_mm: 3048, height_mm: 2438.4, center_mm: 1066.8 },
};

export const sizeToBegin = (units: Units) => beginning[units].size;

/** A site on one of these walls. */
export function begun(wall: Wall, more: Partial<NonNullable<Site['wall']>>, units: Units): Site {
  const { width_mm, height_mm, center_mm } = beginning[units];
  return { id: '', display: 'display', bracket: 'bracket', wall: { type: wall, width_mm, height_mm, ...more }, place: { rule: 'center', center_mm } };
}

/** A wall that has not been placed, since a figure of it is refused: its figures can be
    put right all the same. */
export function unplaced(site: Site): WallView {
  return {
    site,
    placements: [],
    marks: {},
    numbers: [],
    wall: '',
    holding: '',
    build_up: '',
    side: '',
    left_mm: 0,
    top_mm: 0,
    movable: [],
    snapped: [],
    guide: undefined,
    others: [],
    said: { verdict: 'missing_data', on_wall: false, of: 'wall', why: '', stands_on: [] },
  };
}

/** Opens a job that is saved; on another screen, or here. */
export function useOpenJob() {
  const { ask, askThere } = useWorkspace();
  const tell = useNotice();
  return async (id: string, there = false) => {
    try {
      const saved = await answer(api.GET('/api/items/{kind}/{id}', { params: { path: { kind: 'jobs', id } } }));
      if (saved.job) (there ? askThere : ask)(opened(saved.job, saved.revision));
    } catch (e) {
      tell({ text: (e as Error).message });
    }
  };
}

/** Why a job was not saved: the first figure that is wrong, or what the server says. */
export function unsaved(e: Error): string {
  const p = e instanceof Refused ? e.problem.problems?.[0] : undefined;
  return t`Not saved. ${p ? `${figureName(p.path)}: ${faultOf(p)}` : e.message}`;
}

/** Saves the site as a job under a name. */
export function useSaveJob(request: Request | undefined, judged: BenchAnswer | undefined) {
  const { inputs, ask } = useWorkspace();
  const queries = useQueryClient();
  const tell = useNotice();
  return useMutation({
    mutationFn: ({ id, over }: { id: string; over?: number }) => {
      if (!request?.site || !judged) throw new Error(t`There is nothing to save yet.`);
      if (!judged.in_catalogue) throw new Error(t`Save the pairing first: a job needs a display of the catalogue.`);
      // As it is typed, not as it was last placed: what cannot be placed is refused, and said.
      const { turn_deg, arm_clearance_mm, units, changes = [] } = request;
      const ofJob = changes.filter((c) => c.path.startsWith('site.') || c.path === 'accessories_kg').map((c) => ({ ...c, path: `job.${c.path.replace(/^site\./, '')}` }));
      const job = { ...request.site, id, display: judged.display.id, bracket: judged.bracket.id, turn_deg, arm_clearance_mm };
      const revision = over ?? (id === inputs.site?.id ? inputs.siteRevision : 0);
      return answer(api.PUT('/api/items/{kind}/{id}', { params: { path: { kind: 'jobs', id } }, body: { revision, job, changes: ofJob, units } }));
    },
    onSuccess: (saved) => {
      void queries.invalidateQueries({ queryKey: ['jobs'] });
      if (saved.job) ask((a) => ({ ...opened(saved.job!, saved.revision), schools: a.schools }));
      tell({ text: t`Saved: job ${saved.job!.id}.` });
    },
  });
}

/** Takes a job out; it can be brought back, and its history stays. */
export function useRemoveJob() {
  const queries = useQueryClient();
  const tell = useNotice();
  const again = () => void queries.invalidateQueries({ queryKey: ['jobs'] });
  const at = (id: string) => ({ path: { kind: 'jobs' as const, id } });
  return async (id: string) => {
    try {
      const saved = await answer(api.GET('/api/items/{kind}/{id}', { params: at(id) }));
      await answer(api.DELETE('/api/items/{kind}/{id}', { params: { path: { kind: 'jobs', id }, query: { revision: saved.revision } } }));
      again();
      const back = () =>
        void answer(api.PUT('/api/items/{kind}/{id}', { params: at(id), body: { revision: 0, job: saved.job! } }))
          .then(again)
          .catch((e: Error) => tell({ text: e.message }));
      tell({ text: t`Removed: job ${id}.`, action: { name: t`Undo`, act: back } });
    } catch (e) {
      tell({ text: (e as Error).message });
    }
  };
}

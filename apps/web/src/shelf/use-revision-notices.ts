import type { ModelListItem } from '@bathyscope/contracts';
import { useQueryClient } from '@tanstack/react-query';
import { useNavigate } from 'react-router';
import { api } from '../api/api.ts';
import { useEvents } from '../panels/use-events.ts';
import { commonText, doubtText } from '../ui/likeness-text.ts';
import { toast } from '../ui/notices.ts';

/** ms that a question about a file stays. */
const LONG = 30_000;

/** What is asked and said of files that are, or may be, the next revision of a model. */
export function useRevisionNotices() {
  const queries = useQueryClient();
  const navigate = useNavigate();
  const events = useEvents();

  /** Calls when a job is done. @returns what waits for it no longer */
  const whenDone = (job: string, then: () => void): (() => void) => {
    const off = events.follow({
      onJob: ({ id, state }) => {
        if (id !== job || state === 'queued' || state === 'running') return;
        off();
        if (state === 'done') then();
      },
    });
    return off;
  };

  const doubt = async ({ id, name }: ModelListItem) => {
    const newest = (await api.revisions(id)).find((r) => r.state === 'ready');
    if (!newest || newest.revision === 1) return;
    const { revision } = newest;
    const against = doubtText(await api.likeness(id, revision), name);
    if (!against) return;
    toast(`Revision ${revision} of “${name}” is ready. ${against}`, {
      id: `revision ${id}`,
      duration: LONG,
      action: { label: 'Open', onClick: () => void navigate(`/models/${id}/revisions/${revision}`) },
    });
  };

  /** Once a revision is converted, what speaks against its being one is said. */
  const doubtWhenDone = (model: ModelListItem, job: string): void =>
    void whenDone(job, () => void doubt(model).catch(() => {}));

  /**
   * A file of a name that is there may be meant as the next revision; it is a model of its
   * own until somebody says so.
   */
  const offer = async (model: ModelListItem, job: string) => {
    const named = await api.models({ search: model.name, tag: '', sort: 'newest' }).catch(() => []);
    const alike = (other: ModelListItem) => other.name === model.name || other.fileName === model.fileName;
    const like = named.find((other) => other.id !== model.id && other.state === 'ready' && alike(other));
    if (!like) return;
    let converted = false;
    const adopt = async () => {
      await api.adoptRevision(like.id, model.id);
      await queries.invalidateQueries({ queryKey: ['models'] });
      if (converted) await doubt(like).catch(() => {});
      else doubtWhenDone(like, job);
    };
    const ask = (common: string) =>
      toast(
        `“${like.name}” has the name of this file${common && `, and ${common}`}. Is “${model.fileName}” its next revision?`,
        {
          id: `revision of ${like.id}`,
          duration: LONG,
          action: { label: 'Make it that', onClick: () => (off(), void adopt().catch(toast.failed)) },
        },
      );
    // What they have in common is known when it is converted; until then their names speak for it.
    const off = whenDone(job, () => {
      converted = true;
      void api.likeness(model.id, model.revision, like.id).then(
        (found) => ask(commonText(found) || 'nothing else in common'),
        () => {},
      );
    });
    setTimeout(off, LONG);
    ask('');
  };
  return { offer, doubtWhenDone };
}

import { Popover, PopoverButton, PopoverPanel } from '@headlessui/react';
import type { RevisionView } from '@bathyscope/contracts';
import { useQueryClient } from '@tanstack/react-query';
import { formatDistanceToNow } from 'date-fns';
import { Download, FilePlus2, Trash2 } from 'lucide-react';
import { useRef, useState } from 'react';
import { Link } from 'react-router';
import { useStore } from 'zustand';
import { underBase } from '../../api/under-base.ts';
import { api, upload } from '../../api/api.ts';
import { EditableName } from '../../ui/EditableName.tsx';
import { fileSize } from '../../ui/file-size.ts';
import { IconButton } from '../../ui/IconButton.tsx';
import { toast } from '../../ui/notices.ts';
import { lookUp } from '../../workspace/revisions/look-up.ts';
import { useSeen } from '../use-derived.ts';
import { useWorkspace } from '../use-workspace.ts';
import { useRevisions } from './use-revisions.ts';

/**
 * Which revision is shown; its list, with what leads to the others, a line about each, and
 * the way to add the next.
 */
export function Revisions() {
  const ws = useWorkspace();
  const detail = useStore(ws.model, (s) => s.detail);
  const revisions = useRevisions(detail?.id ?? '', detail?.name ?? '', detail?.newest ?? 0);
  if (!detail) return null;
  const newest = revisions.find((r) => r.state === 'ready')?.revision ?? detail.newest;
  return (
    <Popover className="relative shrink-0">
      <PopoverButton
        className="figures rounded border border-line bg-well px-1.5 text-[12px] text-soft hover:bg-hover"
        title={newest > detail.revision ? `Revision ${newest} is newer` : 'The revisions of this model'}
      >
        rev {detail.revision}
        {newest > detail.revision && <span className="text-amber"> of {newest}</span>}
      </PopoverButton>
      <PopoverPanel
        anchor="bottom start"
        className="z-50 mt-1 w-96 max-w-[calc(100vw-1rem)] rounded-md border border-border bg-panel p-2 text-[14px] text-ink shadow-card"
      >
        {({ close }) => (
          <>
            <h2 className="px-1 font-semibold">Revisions</h2>
            <ol className="mt-1 max-h-[50vh] space-y-1 overflow-y-auto">
              {revisions.map((revision) => (
                <Row
                  key={revision.revision}
                  of={revision}
                  model={detail.id}
                  shown={revision.revision === detail.revision}
                />
              ))}
            </ol>
            <Kept close={close} />
            {ws.source.can.upload && <AddRevision model={detail.id} />}
          </>
        )}
      </PopoverPanel>
    </Popover>
  );
}

function Row({ of, model, shown }: { of: RevisionView; model: string; shown: boolean }) {
  const queries = useQueryClient();
  const again = () => void queries.invalidateQueries({ queryKey: ['revisions', model] });
  const { revision, author, fileName, note, state } = of;
  const by = author ? ` by ${author.you ? 'you' : author.name || 'someone'}` : '';
  const remove = async () => {
    await api.removeRevision(model, revision);
    again();
    toast(`Revision ${revision} was removed.`, {
      id: `removed ${revision}`,
      action: {
        label: 'Undo',
        onClick: () => void api.restoreRevision(model, revision).then(again, toast.failed),
      },
    });
  };
  return (
    <li className={`rounded border p-1.5 ${shown ? 'border-magenta' : 'border-line'}`}>
      <div className="flex items-center gap-2">
        <span className="figures w-6 shrink-0 text-right font-medium">{revision}</span>
        <span className="min-w-0 flex-1 truncate" title={fileName}>
          {fileName}
        </span>
        <a
          href={underBase(`/api/models/${model}/revisions/${revision}/source`)}
          aria-label={`Save the file of revision ${revision}`}
          title="Save the file as it was sent"
          className="rounded p-0.5 text-soft hover:bg-hover hover:text-ink"
        >
          <Download size={16} aria-hidden />
        </a>
        {state === 'converting' ? (
          <span className="text-[12.5px] text-soft">being converted</span>
        ) : shown ? (
          <span className="text-[12.5px] text-magenta">shown</span>
        ) : (
          <Link
            to={`/models/${model}/revisions/${revision}`}
            className="rounded border border-border bg-paper px-2 text-[13px] hover:bg-hover"
            aria-label={`Open revision ${revision}`}
          >
            Open
          </Link>
        )}
        {state === 'ready' && (
          <IconButton
            icon={Trash2}
            label={`Remove revision ${revision}`}
            className="text-soft"
            onClick={() => void remove().catch(toast.failed)}
          />
        )}
      </div>
      <p className="pl-8 text-[12.5px] text-soft">
        <span className="figures">{fileSize(of.fileSize)}</span> ·{' '}
        {formatDistanceToNow(new Date(of.createdAt), { addSuffix: true })}
        {by}
      </p>
      <EditableName
        name={note}
        label={`What is to be said of revision ${revision}`}
        empty="Say a line about it"
        className={`ml-7 max-w-[calc(100%-1.75rem)]! text-[13px] ${note ? '' : 'text-soft'}`}
        onRename={(text) => void api.setRevisionNote(model, revision, text).then(again, toast.failed)}
      />
    </li>
  );
}

/**
 * What became of what was kept on other revisions: how many of each, and the way to go through those that are
 * not plainly found.
 */
function Kept({ close }: { close: () => void }) {
  const ws = useWorkspace();
  const others = useSeen(lookUp);
  if (!others.length) return null;
  const here = others.filter(({ aside }) => !aside);
  const counts = (['found', 'probably found', 'lost'] as const)
    .map((status) => [status, here.filter((kept) => kept.status === status).length] as const)
    .filter(([, n]) => n > 0)
    .map(([status, n]) => `${n} ${status}`);
  const aside = others.length - here.length;
  return (
    <section
      aria-label="What was kept on other revisions"
      className="mt-2 flex items-center gap-2 border-t border-line px-1 pt-2"
    >
      <div className="min-w-0 flex-1">
        <h3 className="font-medium">Kept on other revisions</h3>
        <p className="text-[13px] text-soft">
          {[...counts, aside && `${aside} put aside`].filter(Boolean).join(', ')}
        </p>
      </div>
      <button
        type="button"
        className="shrink-0 rounded border border-border bg-paper px-2 py-0.5 hover:bg-hover"
        onClick={() => {
          ws.lookedUp.setState({ open: true });
          close();
        }}
      >
        Go through them
      </button>
    </section>
  );
}

function AddRevision({ model }: { model: string }) {
  const queries = useQueryClient();
  const input = useRef<HTMLInputElement>(null);
  const [share, setShare] = useState<number | null>(null);
  const add = async (file: File) => {
    setShare(0);
    try {
      await upload(file, setShare, `/api/models/${model}/revisions`).done;
      toast(`“${file.name}” is being converted; what is shown stays meanwhile.`, { id: 'revision-sent' });
    } catch (error) {
      toast.failed(error);
    } finally {
      setShare(null);
      void queries.invalidateQueries({ queryKey: ['revisions', model] });
    }
  };
  return (
    <div className="mt-2 border-t border-line pt-2">
      <button
        type="button"
        disabled={share !== null}
        className="flex items-center gap-1.5 rounded border border-border bg-paper px-2 py-1 hover:bg-hover disabled:opacity-60"
        onClick={() => input.current?.click()}
      >
        <FilePlus2 size={15} aria-hidden />
        {share === null ? 'New revision …' : `Sending, ${Math.round(share * 100)} %`}
      </button>
      <input
        ref={input}
        type="file"
        accept=".step,.stp,.p21"
        aria-label="File of the new revision"
        className="hidden"
        onChange={(e) => {
          const [file] = e.target.files ?? [];
          e.target.value = '';
          if (file) void add(file);
        }}
      />
    </div>
  );
}

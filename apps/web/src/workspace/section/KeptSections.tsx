import { changeStates, type Section } from '@bathyscope/core';
import { Bookmark, Trash2 } from 'lucide-react';
import { memo } from 'react';
import { useStore } from 'zustand';
import { recordSection } from '../../commands/section-changes.ts';
import { changeTable } from '../../commands/visibility-commands.ts';
import { wholePaths } from '../../commands/whole-commands.ts';
import { historyStore } from '../../stores/history-store.ts';
import { preferenceStore, type KeptSection } from '../../stores/preference-store.ts';
import { sectionNow, sectionStore } from '../../stores/section-store.ts';
import { visibilityStore } from '../../stores/visibility-store.ts';
import { EditableName } from '../../ui/EditableName.tsx';
import { IconButton } from '../../ui/IconButton.tsx';

const change = (sections: KeptSection[]): void => preferenceStore.setState({ sections });

/** The section as it was kept, with what it leaves whole: one step back each. */
function recall({ name, section, whole }: KeptSection): void {
  recordSection(`section “${name}”`, { ...section, on: true } satisfies Section);
  const { states } = visibilityStore.getState();
  const done = changeTable(`keep whole as in “${name}”`, changeStates(changeStates(states, wholePaths(), { keptWhole: false }), whole, { keptWhole: true }));
  if (done) historyStore.getState().record(done);
}

/** Sections of the model that were named and kept, apart from saved views. */
export const KeptSections = memo(function KeptSections() {
  const sections = useStore(preferenceStore, (s) => s.sections);
  const count = useStore(sectionStore, (s) => s.planes.length);
  if (!sections.length && !count) return null;
  return (
    <section aria-label="Kept sections" className="mt-3">
      <h3 className="flex text-[12px] font-semibold tracking-wider text-soft uppercase"><span className="flex-1">Kept sections</span>
        {count > 0 && <button type="button" className="font-normal tracking-normal normal-case text-blue hover:underline" onClick={() => change([...sections, { id: crypto.randomUUID(), name: `Section ${sections.length + 1}`, section: sectionNow(), whole: wholePaths() }])}>Keep this one</button>}
      </h3>
      {sections.map((s) => (
        <div key={s.id} className="flex items-center gap-1 border-b border-line text-[13px]">
          <IconButton icon={Bookmark} label={`Cut as in ${s.name}`} className="size-6 text-soft" onClick={() => recall(s)} />
          <EditableName name={s.name} label="Name of the section" className="min-w-0 flex-1" onRename={(name) => change(sections.map((o) => (o.id === s.id ? { ...o, name } : o)))} />
          <span className="text-[12.5px] text-soft">{s.section.planes.length === 1 ? '1 plane' : `${s.section.planes.length} planes`}</span>
          <IconButton icon={Trash2} label={`Forget ${s.name}`} className="size-6 text-soft" onClick={() => {
            change(sections.filter((o) => o.id !== s.id));
            historyStore.getState().record({ name: `forget ${s.name}`, undo: () => change(sections), redo: () => change(sections.filter((o) => o.id !== s.id)) });
          }} />
        </div>
      ))}
    </section>
  );
});

import { keptSection } from '@bathyscope/contracts/records';
import { Bookmark, Trash2 } from 'lucide-react';
import { memo } from 'react';
import { useStore } from 'zustand';
import { recallSection } from '../../commands/cut/needed-section.ts';
import { wholePaths } from '../../commands/cut/whole-commands.ts';
import { EditableName } from '../../ui/EditableName.tsx';
import { IconButton } from '../../ui/IconButton.tsx';
import { useRecords } from '../use-records.ts';
import { useWorkspace } from '../use-workspace.ts';
import { sectionNow } from '../../workspace/cutting/section-now.ts';
import { added, changed, changeRecords, removed } from '../../workspace/keeping/records.ts';
import { componentReferences } from '../../workspace/measuring/references.ts';
import { MadeBy } from '../frame/MadeBy.tsx';
import { Status } from '../frame/Status.tsx';

/** Sections of the model that were named and kept, apart from saved views. */
export const KeptSections = memo(function KeptSections() {
  const ws = useWorkspace();
  const sections = useRecords(keptSection);
  const count = useStore(ws.section, (s) => s.planes.length);
  if (!sections.length && !count) return null;
  return (
    <section aria-label="Kept sections" className="mt-3">
      <h3 className="flex text-[12px] font-semibold tracking-wider text-soft uppercase">
        <span className="flex-1">Kept sections</span>
        {count > 0 && (
          <button
            type="button"
            className="font-normal tracking-normal normal-case text-blue hover:underline"
            onClick={() =>
              changeRecords(ws, `keep section ${sections.length + 1}`, [
                added(ws, keptSection, {
                  name: `Section ${sections.length + 1}`,
                  section: sectionNow(ws),
                  whole: componentReferences(ws, wholePaths(ws)),
                }),
              ])
            }
          >
            Keep this one
          </button>
        )}
      </h3>
      {sections.map((s) => (
        <div key={s.id} className="flex items-center gap-1 border-b border-line text-[13px]">
          <IconButton
            icon={Bookmark}
            label={`Cut as in ${s.name}`}
            className="size-6 text-soft"
            onClick={() => recallSection(ws, s)}
          />
          <EditableName
            name={s.name}
            label="Name of the section"
            className="min-w-0 flex-1"
            onRename={(name) =>
              changeRecords(ws, `name of “${s.name}”`, [changed(ws, keptSection, s, { name })])
            }
          />
          <MadeBy kind={keptSection} id={s.id} />
          <Status of={[...s.whole, ...s.section.planes.flatMap((p) => p.from ?? [])]} />
          <span className="text-[12.5px] text-soft">
            {s.section.planes.length === 1 ? '1 plane' : `${s.section.planes.length} planes`}
          </span>
          <IconButton
            icon={Trash2}
            label={`Forget ${s.name}`}
            className="size-6 text-soft"
            onClick={() => changeRecords(ws, `forget “${s.name}”`, [removed(ws, keptSection, s)])}
          />
        </div>
      ))}
    </section>
  );
});

import {
  closestCenter,
  DndContext,
  KeyboardSensor,
  PointerSensor,
  useSensor,
  useSensors,
} from '@dnd-kit/core';
import {
  SortableContext,
  sortableKeyboardCoordinates,
  useSortable,
  verticalListSortingStrategy,
} from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import { Menu, MenuButton, MenuItem, MenuItems } from '@headlessui/react';
import { MOST_SLOTS, savedView, type SavedView } from '@bathyscope/contracts/records';
import { EllipsisVertical, GripVertical, Pause, Play, Plus } from 'lucide-react';
import { useStore } from 'zustand';
import { commandById } from '../../commands/registry.ts';
import { runCommand } from '../../commands/run-command.ts';
import {
  copyLink,
  moveView,
  overwriteView,
  removeView,
  renameView,
  saveView,
  setRecall,
  setSlot,
  showSavedView,
} from '../../commands/keep/saved-views.ts';
import { EditableName } from '../../ui/EditableName.tsx';
import { NumberField } from '../../ui/NumberField.tsx';
import type { Of } from '../../state/record-store.ts';
import { MadeBy } from '../frame/MadeBy.tsx';
import { useRecords } from '../use-records.ts';
import { useWorkspace } from '../use-workspace.ts';
import { ViewPicture } from './ViewPicture.tsx';
import { changeSettings } from '../../workspace/keeping/change-settings.ts';

/**
 * The saved views of the model: recall, rename, reorder by drag, overwrite, delete,
 * slots, links; and their tour.
 */
export function SavedViews() {
  const ws = useWorkspace();
  const views = useRecords(savedView);
  const { current } = useStore(ws.savedViews);
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  return (
    <section aria-label="Saved views of the model" className="mt-1">
      <div className="flex items-center gap-2">
        <button
          type="button"
          className="flex flex-1 items-center justify-center gap-1.5 rounded bg-blue py-1 font-medium text-on-blue hover:opacity-90"
          onClick={() => saveView(ws)}
        >
          <Plus size={15} aria-hidden /> Save this view
        </button>
        {views.length > 1 && <TourButton />}
      </div>
      {!views.length && (
        <p className="mt-2 text-[13px] text-soft">
          No saved views yet. Save this one, or hold a number key to store it in that slot.
        </p>
      )}
      <DndContext
        sensors={sensors}
        collisionDetection={closestCenter}
        onDragEnd={({ active, over }) => over && moveView(ws, String(active.id), String(over.id))}
      >
        <SortableContext items={views.map((v) => v.id)} strategy={verticalListSortingStrategy}>
          <ol className="mt-2 space-y-1">
            {views.map((view) => (
              <Row key={view.id} view={view} current={view.id === current} />
            ))}
          </ol>
        </SortableContext>
      </DndContext>
    </section>
  );
}

function TourButton() {
  const ws = useWorkspace();
  const playing = useStore(ws.tour, (s) => s.at !== null);
  const pace = useStore(ws.profile, (s) => s.tourPace);
  return (
    <div data-tour className="flex items-center gap-1">
      <button
        type="button"
        className="flex items-center gap-1 rounded border border-border bg-paper px-2 py-1 hover:bg-hover"
        onClick={() => runCommand(ws, commandById('tour'))}
      >
        {playing ? <Pause size={14} aria-hidden /> : <Play size={14} aria-hidden />}{' '}
        {playing ? 'Stop' : 'Tour'}
      </button>
      <label className="flex items-center gap-1 text-[12.5px] text-soft" title="Seconds at each view">
        <NumberField
          label="Seconds at each view of the tour"
          kind="time"
          unit="s"
          value={pace}
          decimals={1}
          className="w-14"
          check={(s) => (s >= 0.5 && s <= 30 ? null : 'Between 0.5 and 30 seconds.')}
          onChange={(tourPace) => changeSettings(ws, { tourPace })}
        />
      </label>
    </div>
  );
}

function Row({ view, current }: { view: Of<SavedView>; current: boolean }) {
  const ws = useWorkspace();
  const now = useStore(ws.model, (s) => s.detail?.revision ?? view.revision);
  const { attributes, listeners, setNodeRef, transform, transition } = useSortable({ id: view.id });
  return (
    <li
      ref={setNodeRef}
      style={{ transform: CSS.Translate.toString(transform), transition }}
      className={`flex items-center gap-1.5 rounded border bg-panel p-1 ${current ? 'border-magenta' : 'border-line'}`}
    >
      <button
        type="button"
        aria-label={`Move ${view.name}`}
        className="cursor-grab text-soft"
        {...attributes}
        {...listeners}
      >
        <GripVertical size={15} aria-hidden />
      </button>
      <button
        type="button"
        aria-label={`Show ${view.name}`}
        className="h-9 w-14 shrink-0 overflow-hidden rounded-sm border border-line bg-linear-to-b from-(--shoal-top) to-(--shoal-bottom)"
        onClick={() => showSavedView(ws, view)}
      >
        <ViewPicture id={view.id} />
      </button>
      <EditableName
        name={view.name}
        label="Name of the view"
        className="min-w-0 flex-1"
        onRename={(name) => renameView(ws, view, name)}
      />
      <select
        aria-label={`Slot of ${view.name}`}
        title="Number key that recalls it"
        value={view.slot ?? ''}
        className="figures h-6 rounded border border-line bg-well text-[12px]"
        onChange={(e) => setSlot(ws, view, e.target.value ? Number(e.target.value) : null)}
      >
        <option value="">–</option>
        {Array.from({ length: MOST_SLOTS }, (_, i) => (
          <option key={i} value={i + 1}>
            {i + 1}
          </option>
        ))}
      </select>
      {view.revision !== now && (
        <span
          className="shrink-0 text-[12px] text-amber"
          title={`Saved on revision ${view.revision}; this is revision ${now}`}
        >
          rev. {view.revision}
        </span>
      )}
      <MadeBy kind={savedView} id={view.id} />
      <ViewMenu view={view} />
    </li>
  );
}

const PARTS = [
  ['camera', 'Recall the camera'],
  ['projection', 'Recall the projection'],
  ['visibility', 'Recall what is visible'],
  ['style', 'Recall the style'],
  ['section', 'Recall the section'],
] as const;

function ViewMenu({ view }: { view: Of<SavedView> }) {
  const ws = useWorkspace();
  const actions: [string, () => void][] = [
    ['Replace by this view', () => overwriteView(ws, view)],
    ['Copy a link to it', () => void copyLink(ws, view.state)],
    ['Delete', () => removeView(ws, view)],
  ];
  return (
    <Menu>
      <MenuButton
        aria-label={`More about ${view.name}`}
        className="grid size-6 place-items-center rounded text-soft hover:bg-hover"
      >
        <EllipsisVertical size={15} aria-hidden />
      </MenuButton>
      <MenuItems
        anchor="bottom end"
        className="z-50 w-52 rounded-md border border-border bg-panel py-1 text-[14px] text-ink shadow-card"
      >
        {PARTS.map(([part, name]) => (
          <MenuItem key={part}>
            <button
              type="button"
              aria-label={view.recall[part] ? `Do not ${name.toLowerCase()}` : name}
              className="flex w-full items-center gap-2 px-3 py-1 text-left data-focus:bg-hover"
              onClick={(e) => {
                e.preventDefault();
                setRecall(ws, view, { ...view.recall, [part]: !view.recall[part] });
              }}
            >
              <span className="w-4">{view.recall[part] ? '✓' : ''}</span>
              {name}
            </button>
          </MenuItem>
        ))}
        <div className="my-1 border-t border-line" role="separator" />
        {actions.map(([name, run]) => (
          <MenuItem key={name}>
            <button
              type="button"
              className="block w-full px-3 py-1 pl-9 text-left data-focus:bg-hover"
              onClick={run}
            >
              {name}
            </button>
          </MenuItem>
        ))}
      </MenuItems>
    </Menu>
  );
}

import { useEffect, useRef } from 'react';
import { useStore } from 'zustand';
import { type Picked } from '../../state/selection-store.ts';
import type { Workspace } from '../../workspace/workspace.ts';
import { useSeen } from '../use-derived.ts';
import { useWorkspace } from '../use-workspace.ts';
import { closePickList, walkPickList } from '../../workspace/picking/pick-list.ts';

const nameOf = (ws: Workspace, item: Picked): { what: string; where: string } => {
  const { byPath, parts } = ws.model.getState();
  const occurrence = byPath.get(item.component);
  const face =
    occurrence?.part === undefined ? undefined : parts.get(occurrence.part)?.geometry.faces[item.index];
  return {
    what: face ? `${face.hole !== undefined ? 'hole' : face.surface} face` : item.kind,
    where: occurrence?.instanceName ?? occurrence?.name ?? '',
  };
};

/** Everything under the cursor, nearest first: arrows or B walk it with a preview, Enter or a click picks. */
export function PickList() {
  const ws = useWorkspace();
  const list = useStore(ws.pickList, (s) => s.list);
  const ref = useRef<HTMLDivElement>(null);
  const open = list !== null;
  useEffect(() => {
    if (!open) return;
    ref.current?.focus();
    // A press in the scene decides itself whether it goes on with the list.
    const onPress = (e: PointerEvent) =>
      !(ref.current?.contains(e.target as Node) || (e.target as Element).closest('[data-testid=scene]')) &&
      closePickList(ws);
    window.addEventListener('pointerdown', onPress, true);
    return () => window.removeEventListener('pointerdown', onPress, true);
  }, [open, ws]);
  const names = useSeen((now) => (list ? list.items.map((item) => nameOf(now, item)) : []));
  if (!list) return null;
  const choose = (at: number, whole: boolean) => {
    const item = list.items[at];
    closePickList(ws);
    ws.selection.getState().pick([whole ? { kind: 'component', component: item.component, index: 0 } : item]);
    document.querySelector<HTMLElement>('[data-testid=scene]')?.focus();
  };
  const keys: Record<string, () => void> = {
    ArrowDown: () => walkPickList(ws, 1),
    ArrowUp: () => walkPickList(ws, -1),
    b: () => walkPickList(ws, 1),
    B: () => walkPickList(ws, -1),
    Enter: () => choose(list.at, false),
    c: () => choose(list.at, true),
    Escape: () => {
      closePickList(ws);
      document.querySelector<HTMLElement>('[data-testid=scene]')?.focus();
    },
  };
  return (
    <div
      ref={ref}
      role="listbox"
      aria-label="Pick-through"
      tabIndex={0}
      aria-activedescendant={`pick-${list.at}`}
      style={{ left: Math.max(8, list.x + 14), top: Math.max(8, Math.min(list.y, 360)) }}
      className="absolute z-30 max-h-72 w-64 overflow-y-auto rounded-md border border-border bg-panel py-1 shadow-card outline-offset-[-2px]"
      onKeyDown={(e) => {
        const action = keys[e.key];
        if (!action) return;
        e.preventDefault();
        e.stopPropagation();
        action();
      }}
    >
      <p className="px-3 pb-1 text-[12px] text-soft">Nearest first · Enter picks, C its component</p>
      {list.items.map((item, i) => {
        const { what, where } = names[i];
        return (
          <div
            key={`${item.component}/${item.index}`}
            id={`pick-${i}`}
            role="option"
            aria-selected={i === list.at}
            className={`flex cursor-pointer gap-2 px-3 py-0.5 ${i === list.at ? 'bg-magenta-wash text-magenta' : 'hover:bg-hover'}`}
            onMouseEnter={() => walkPickList(ws, i - list.at)}
            onClick={() => choose(i, false)}
          >
            <span className="min-w-0 flex-1 truncate">{where}</span>
            <span className="text-[12.5px] text-soft">{what}</span>
          </div>
        );
      })}
    </div>
  );
}

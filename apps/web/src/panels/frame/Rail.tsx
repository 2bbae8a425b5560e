import { ListTree, Palette, Ruler, Scale, ScanEye, Slice, type LucideIcon } from 'lucide-react';
import { useStore } from 'zustand';
import { type Task } from '../../state/settings-store.ts';
import { useWorkspace } from '../use-workspace.ts';
import { changeSettings } from '../../workspace/keeping/change-settings.ts';

const TASKS: { id: Task; name: string; icon: LucideIcon }[] = [
  { id: 'parts', name: 'Parts', icon: ListTree },
  { id: 'views', name: 'Views', icon: ScanEye },
  { id: 'style', name: 'Style', icon: Palette },
  { id: 'section', name: 'Section', icon: Slice },
  { id: 'measure', name: 'Measure', icon: Ruler },
  { id: 'mass', name: 'Mass', icon: Scale },
];

/** The tasks, in working order; a click on the open one closes its panel. */
export function Rail() {
  const ws = useWorkspace();
  const chosen = useStore(ws.profile, (s) => s.task);
  const folded = useStore(ws.mode, (s) => s.panelFolded);
  const task = folded ? null : chosen;
  return (
    <nav
      aria-label="Tasks"
      className="flex w-14 shrink-0 flex-col overflow-y-auto border-r border-line bg-paper pt-1"
    >
      {TASKS.map(({ id, name, icon: Icon }) => (
        <button
          key={id}
          type="button"
          aria-pressed={task === id}
          title={name}
          onClick={() =>
            folded && chosen === id
              ? ws.mode.setState({ panelFolded: false })
              : changeSettings(ws, { task: task === id ? null : id })
          }
          className="relative flex flex-col items-center gap-0.5 py-2 text-[12px] [@media(max-height:559px)]:py-0.5 text-soft hover:bg-hover aria-pressed:bg-panel aria-pressed:font-semibold aria-pressed:text-blue"
        >
          {task === id && <span className="absolute inset-y-0 left-0 w-[3px] bg-blue" />}
          <Icon size={20} strokeWidth={1.6} aria-hidden />
          {name}
        </button>
      ))}
    </nav>
  );
}

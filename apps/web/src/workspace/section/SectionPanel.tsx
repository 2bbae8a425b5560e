import { boxCorners, dot, fixed, formatQuantity, partColour, subtract, type SectionPlane } from '@bathyscope/core';
import { Eye, EyeOff, FlipHorizontal2, Scan, Trash2 } from 'lucide-react';
import { useState } from 'react';
import { useStore } from 'zustand';
import { changePlane, changeSection, lookAtPlane, recordSection } from '../../commands/section-commands.ts';
import { commandById } from '../../commands/registry.ts';
import { runCommand } from '../../commands/run-command.ts';
import { historyStore, type Inverse } from '../../stores/history-store.ts';
import { modelStore } from '../../stores/model-store.ts';
import { sceneStore } from '../../stores/scene-store.ts';
import { sectionStore } from '../../stores/section-store.ts';
import { settingsStore } from '../../stores/settings-store.ts';
import { visibilityStore } from '../../stores/visibility-store.ts';
import { EditableName } from '../../ui/EditableName.tsx';
import { IconButton } from '../../ui/IconButton.tsx';

const NEW = [['section-x', 'X'], ['section-y', 'Y'], ['section-z', 'Z'], ['section-eye', 'Facing the eye']] as const;

/** The planes that cut the model, and the figures of what they cut. */
export function SectionPanel() {
  const { planes, on } = useStore(sectionStore);
  return (
    <div className="min-h-0 flex-1 overflow-y-auto px-3 pt-2.5 pb-4">
      <div className="flex items-center">
        <h2 className="flex-1 font-semibold">Section</h2>
        {planes.length > 0 && <IconButton icon={on ? Eye : EyeOff} label={on ? 'All planes off' : 'All planes on'} shortcut="K" className="size-6 text-soft" onClick={() => runCommand(commandById('section'))} />}
      </div>
      <div className="mt-1.5 flex gap-1">
        {NEW.map(([id, name]) => <button key={id} type="button" title={commandById(id).name} className="flex-1 rounded border border-line bg-paper px-1.5 py-1 text-[13px] whitespace-nowrap hover:bg-hover" onClick={() => runCommand(commandById(id))}>{name}</button>)}
      </div>
      <button type="button" className="mt-1 w-full rounded border border-line bg-paper px-2 py-1 text-left text-[13px] hover:bg-hover" onClick={() => runCommand(commandById('section-face'))}>From a planar face</button>
      {!planes.length && <p className="mt-2 text-[13px] text-soft">Nothing is cut. Choose a direction, or a planar face to cut at.</p>}
      <ul className="mt-2 space-y-1.5">{planes.map((p) => <Plane key={p.id} plane={p} />)}</ul>
      {on && <Figures />}
    </div>
  );
}

/** How far a plane can be moved and still cut what is shown, mm of its offset. */
function rangeOf(plane: SectionPlane): [number, number] {
  const box = sceneStore.getState().scene?.view.picking.shownBox();
  if (!box) return [-100, 100];
  const along = boxCorners(box).map((c) => dot(subtract(c, plane.origin), plane.normal));
  return [Math.min(...along), Math.max(...along)];
}

function Plane({ plane }: { plane: SectionPlane }) {
  const [low, high] = rangeOf(plane);
  const [start, setStart] = useState<Inverse | null>(null);
  const [typed, setTyped] = useState<string | null>(null);
  const step = Math.max((high - low) / 1000, 1e-4);
  const slide = (offset: number) => {
    // One step back for the whole drag.
    if (!start) setStart(changeSection(`move ${plane.name}`, sectionStore.getState().planes));
    sectionStore.setState({ planes: changePlane(plane.id, { offset }) });
  };
  const settle = () => {
    if (!start) return;
    const after = sectionStore.getState();
    historyStore.getState().record({ ...start, redo: () => sectionStore.setState(after) });
    setStart(null);
  };
  const type = () => {
    const value = Number((typed ?? '').replace(',', '.'));
    if (typed !== null && typed.trim() !== '' && Number.isFinite(value) && value !== plane.offset) recordSection(`move ${plane.name}`, changePlane(plane.id, { offset: value }));
    setTyped(null);
  };
  return (
    <li className={`rounded-md border p-2 ${plane.on ? 'border-blue' : 'border-line opacity-70'}`}>
      <div className="flex items-center gap-0.5">
        <EditableName name={plane.name} label="Name of the plane" className="min-w-0 flex-1 font-medium" onRename={(name) => recordSection(`rename ${plane.name}`, changePlane(plane.id, { name }))} />
        <IconButton icon={Scan} label={`Normal to ${plane.name}`} className="size-6 text-soft" onClick={() => lookAtPlane(plane)} />
        <IconButton icon={FlipHorizontal2} label={`Flip ${plane.name}`} className="size-6 text-soft" onClick={() => recordSection(`flip ${plane.name}`, changePlane(plane.id, { flipped: !plane.flipped }))} />
        <IconButton icon={plane.on ? Eye : EyeOff} label={`${plane.on ? 'Switch off' : 'Switch on'} ${plane.name}`} className="size-6 text-soft" onClick={() => recordSection(`switch ${plane.name}`, changePlane(plane.id, { on: !plane.on }))} />
        <IconButton icon={Trash2} label={`Delete ${plane.name}`} className="size-6 text-soft" onClick={() => recordSection(`delete ${plane.name}`, sectionStore.getState().planes.filter((p) => p.id !== plane.id))} />
      </div>
      <div className="mt-1 flex items-center gap-2">
        <input type="range" aria-label={`Offset of ${plane.name}, slider`} min={low} max={high} step={step} value={plane.offset} className="min-w-0 flex-1 accent-(--blue)"
          onChange={(e) => slide(Number(e.target.value))} onPointerUp={settle} onKeyUp={settle} onBlur={settle} />
        <input aria-label={`Offset of ${plane.name}, mm`} inputMode="decimal" value={typed ?? plane.offset.toFixed(3)} className="figures h-7 w-24 rounded border border-border bg-well px-2 text-right text-[12.5px]"
          onChange={(e) => setTyped(e.target.value)} onFocus={(e) => e.target.select()} onBlur={type} onKeyDown={(e) => e.key === 'Enter' && type()} /> mm
      </div>
    </li>
  );
}

/** Area by component and the figures of each cut, from the mesh. */
function Figures() {
  useStore(sectionStore);
  useStore(visibilityStore);
  const unit = useStore(settingsStore, (s) => s.unit);
  const { scene } = useStore(sceneStore);
  const made = scene?.view.caps.made ?? [];
  if (!made.length) return null;
  const { components, parts } = modelStore.getState();
  // A column of figures: the same number of places in each, so that they align on the decimal point.
  const factor = { mm: 1, cm: 0.01, m: 1e-6, in: 1 / 645.16 }[unit];
  const area = (mm2: number) => `${fixed(mm2 * factor, { mm: 2, cm: 4, m: 8, in: 5 }[unit])} ${unit}²`;
  const chord = Math.max(0, ...[...parts.values()].map((p) => p.geometry.chordTolerance));
  // An outline off by the chord tolerance everywhere changes the area by at most that times its length.
  const within = chord * Math.max(0, ...made.map(({ cuts }) => cuts.reduce((sum, c) => sum + (c.properties?.perimeter ?? 0), 0)));
  return (
    <>
      {made.map(({ plane, cuts }) => {
        const closed = cuts.flatMap((c) => (c.properties ? [{ ...c.properties, component: components[c.component] }] : []));
        const total = closed.reduce((sum, c) => sum + c.area, 0);
        const open = cuts.filter((c) => c.open.length).length;
        return (
          <section key={plane.id} aria-label={`Cut of ${plane.name}`} className="mt-3">
            <h3 className="text-[12px] font-semibold tracking-wider text-soft uppercase">In the cut of {plane.name.split(' · ')[0]}</h3>
            {closed.map((c) => (
              <div key={c.component.path} className="flex items-center gap-2 border-b border-line py-0.5 text-[13px]">
                <span className="size-2.5 shrink-0 rounded-[2px] border border-black/25" style={{ background: `rgb(${(c.component.colour ?? partColour(c.component.part)).map((x) => Math.round(x * 255)).join(' ')})` }} />
                <span className="min-w-0 flex-1 truncate">{c.component.instanceName ?? c.component.name}</span>
                <span className="figures text-[12.5px] whitespace-nowrap">{area(c.area)}</span>
              </div>
            ))}
            <div className="flex justify-between py-0.5 font-medium"><span>Area, all</span><span className="figures text-[12.5px]" data-testid="cut-area">{area(total)}</span></div>
            {open > 0 && <p className="text-[12.5px] text-amber">{open} open mesh{open > 1 ? 'es are' : ' is'} drawn as an outline and not capped.</p>}
          </section>
        );
      })}
      <p className="mt-1 text-[12.5px] text-soft">From mesh: outlines within {formatQuantity(chord, 'length', unit).text} {unit}, areas within {area(within)}.</p>
    </>
  );
}

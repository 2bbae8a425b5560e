import { useEffect, useRef } from 'react';
import { offerPick } from '../../commands/run-command.ts';
import { commandById } from '../../commands/registry.ts';
import { runCommand } from '../../commands/run-command.ts';
import { PointerControls } from '../../scene/pointer-controls.ts';
import { SceneView } from '../../scene/scene-view.ts';
import { cameraStore } from '../../stores/camera-store.ts';
import { menuStore } from '../../stores/menu-store.ts';
import { pointerStore } from '../../stores/pointer-store.ts';
import { samePick, selectionStore, type Picked } from '../../stores/selection-store.ts';

/** The cursor tells what a click would pick. */
const CURSORS: Record<Picked['kind'], string> = { component: 'default', face: 'pointer', edge: 'crosshair', vertex: 'cell' };

export function SceneCanvas() {
  const ref = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const canvas = ref.current!;
    const view = new SceneView(canvas);
    const controls = new PointerControls(canvas, reportsOf(canvas, view));
    // For tests and benchmarks: the same thing the interface uses, nothing more.
    (window as { bathyscope?: unknown }).bathyscope = { view, cameraStore, selectionStore };
    return () => {
      controls.dispose();
      view.dispose();
      pointerStore.setState({ point: null });
      selectionStore.getState().setHover(null);
    };
  }, []);
  return <canvas ref={ref} tabIndex={0} aria-label="Model" data-testid="scene" className="absolute inset-0 size-full touch-none outline-offset-[-3px]" />;
}

function reportsOf(canvas: HTMLCanvasElement, view: SceneView) {
  const { setHover, pick, toggle } = selectionStore.getState();
  let asked = 0;
  return {
    hover: (x: number, y: number) => {
      // At most one question a frame: fast hands send several moves in one.
      cancelAnimationFrame(asked);
      asked = requestAnimationFrame(() => {
        const hit = view.pick(x, y);
        setHover(hit);
        pointerStore.setState({ point: hit?.point ?? null });
        canvas.style.cursor = hit ? CURSORS[hit.kind] : 'default';
      });
    },
    leave: () => {
      cancelAnimationFrame(asked);
      setHover(null);
      pointerStore.setState({ point: null });
    },
    click: (x: number, y: number, add: boolean) => {
      const hit = view.pick(x, y);
      if (hit && offerPick(hit)) return;
      if (!hit) return add ? undefined : pick([]);
      if (add) return toggle(hit);
      const { picked } = selectionStore.getState();
      // A second click on the same thing widens the pick to its component.
      const again = picked.length === 1 && samePick(picked[0], hit);
      pick([again ? { kind: 'component', component: hit.component, index: 0 } : hit]);
    },
    middleClick: (x: number, y: number) => {
      const point = view.pointAt(x, y);
      if (point) cameraStore.getState().setPivot(point);
      view.showPivot(true);
      setTimeout(() => view.showPivot(false), 700);
    },
    middleDoubleClick: () => runCommand(commandById('fit')),
    menu: (x: number, y: number) => {
      const hit = view.pick(x, y);
      const { picked } = selectionStore.getState();
      if (hit && !picked.some((p) => samePick(p, hit) || (p.kind === 'component' && p.component === hit.component))) pick([hit]);
      const box = canvas.getBoundingClientRect();
      menuStore.setState({ open: { x: box.left + x, y: box.top + y, on: hit ? 'thing' : 'space' } });
    },
    orbiting: (active: boolean) => view.showPivot(active),
  };
}

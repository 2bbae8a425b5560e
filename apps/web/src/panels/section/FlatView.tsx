import { writeCutSvg } from '@bathyscope/core/drawing';
import { toleranceOf } from '@bathyscope/core/section';
import { Download, Maximize2, Minimize2, X } from 'lucide-react';
import { toast } from '../../ui/notices.ts';
import { useStore } from 'zustand';
import { download, fileName } from '../../pictures/export-file.ts';
import { writeCutDxf } from '../../pictures/write-cut-dxf.ts';
import { type PlaneCut } from '../../state/cut-store.ts';
import { CheckBox } from '../../ui/CheckBox.tsx';
import { IconButton } from '../../ui/IconButton.tsx';
import { layersOf } from '../../pictures/cut-layers.ts';
import type { Workspace } from '../../workspace/workspace.ts';
import { FlatDrawing } from './FlatDrawing.tsx';
import { useWorkspace } from '../use-workspace.ts';

/** The cut alone, square on, as a clean drawing; picked and measured like the scene. */
export function FlatView() {
  const ws = useWorkspace();
  const { open, plane: wanted, wide } = useStore(ws.flat);
  const results = useStore(ws.cut, (s) => s.results);
  if (!open) return null;
  const plane = results.find((m) => m.plane.id === wanted) ?? results[0];
  return (
    <section
      aria-label="Flat view"
      className={`z-20 flex flex-col border-l border-line bg-panel ${wide ? 'absolute inset-0' : 'relative w-1/2'}`}
    >
      <header className="flex items-center gap-1 border-b border-line px-2 py-1">
        <h2 className="font-semibold">Flat view</h2>
        {results.length > 1 && (
          <select
            aria-label="Plane of the flat view"
            value={plane?.plane.id}
            onChange={(e) => ws.flat.setState({ plane: e.target.value })}
            className="ml-2 h-7 min-w-0 rounded border border-border bg-well px-1 text-[13px]"
          >
            {results.map((m) => (
              <option key={m.plane.id} value={m.plane.id}>
                {m.plane.name}
              </option>
            ))}
          </select>
        )}
        <span className="flex-1" />
        {plane && <Exports plane={plane} />}
        <IconButton
          icon={wide ? Minimize2 : Maximize2}
          label={wide ? 'Beside the scene' : 'Instead of the scene'}
          className="text-soft"
          onClick={() => ws.flat.setState({ wide: !wide })}
        />
        <IconButton
          icon={X}
          label="Close the flat view"
          className="text-soft"
          onClick={() => ws.flat.setState({ open: false })}
        />
      </header>
      {plane?.cuts.length ? (
        <FlatDrawing key={plane.plane.id} plane={plane} />
      ) : (
        <p className="p-4 text-soft">Nothing is cut. Make or switch on a plane.</p>
      )}
    </section>
  );
}

/** Resolves when the kernel has answered, or is not asked any more. */
const exactCut = (ws: Workspace): Promise<void> =>
  new Promise((resolve) => {
    const off = ws.cut.subscribe(({ asking }) => {
      if (asking) return;
      off();
      resolve();
    });
  });

function Exports({ plane }: { plane: PlaneCut }) {
  const ws = useWorkspace();
  const hatched = useStore(ws.flat, (s) => s.hatched);
  const name = ws.model.getState().detail?.name ?? 'Model';
  const title = `${name}, ${plane.plane.name}`;
  const save = async (format: 'svg' | 'dxf') => {
    if (ws.cut.getState().asking) {
      toast('Waiting for the exact cut …', { id: 'flat' });
      await exactCut(ws);
    }
    // As it is now: the exact curves have come since.
    const layers = layersOf(
      ws,
      ws.cut.getState().results.find((m) => m.plane.id === plane.plane.id) ?? plane,
    );
    const tolerance = toleranceOf(layers.flatMap((l) => l.loops.flat()));
    download(
      format === 'dxf' ? writeCutDxf(layers) : writeCutSvg(layers, { title, scale: 1, hatched }),
      fileName(name, plane.plane.name, format),
      format === 'dxf' ? 'application/dxf' : 'image/svg+xml',
    );
    toast.success(
      `Saved at 1:1, ${layers.length} layer${layers.length === 1 ? '' : 's'}${tolerance ? `; free curves within ${tolerance.toPrecision(2)} mm` : '; all curves as such'}.`,
      { id: 'flat' },
    );
  };
  return (
    <>
      <CheckBox
        className="mr-1 text-[13px]"
        checked={hatched}
        onChange={(on) => ws.flat.setState({ hatched: on })}
      >
        Hatch
      </CheckBox>
      {(['dxf', 'svg'] as const).map((f) => (
        <button
          key={f}
          type="button"
          className="flex items-center gap-1 rounded border border-border px-2 py-0.5 text-[13px] hover:bg-hover"
          onClick={() => void save(f)}
        >
          <Download size={13} aria-hidden /> {f.toUpperCase()}
        </button>
      ))}
    </>
  );
}

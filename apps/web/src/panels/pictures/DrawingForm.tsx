import { CheckBox } from '../../ui/CheckBox.tsx';
import { cuttingPlanes } from '@bathyscope/core/section';
import { Download } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import { toast } from '../../ui/notices.ts';
import { useStore } from 'zustand';
import { download, fileName } from '../../pictures/export-file.ts';
import { makeDrawing } from '../../pictures/make-drawing.ts';
import { Choice } from '../../ui/Choice.tsx';
import { dimensionsNow } from '../../workspace/measuring/drawn-dimensions.ts';
import { activePane } from '../../workspace/view/panes.ts';
import { styleOfPane } from '../../workspace/view/styles.ts';
import { useWorkspace } from '../use-workspace.ts';
import { SCALES } from './scales.ts';

type DrawingOptions = Omit<Parameters<typeof makeDrawing>[1], 'dimensions'> & { dimensions: boolean };

const LINES = [
  ['hidden', 'Hidden edges, dashed'],
  ['smooth', 'Smooth edges, narrow'],
  ['dimensions', 'What is measured'],
] as const;

/** Makes a drawing and saves it; progress is 0 to 1, null while none is made. */
function useDrawing({ dimensions, ...options }: DrawingOptions) {
  const ws = useWorkspace();
  const [progress, setProgress] = useState<number | null>(null);
  const [said, setSaid] = useState('');
  const abort = useRef<() => void>(() => {});
  useEffect(() => () => abort.current(), []);
  const make = () => {
    setProgress(0);
    setSaid('');
    const begun = (dimensions ? dimensionsNow(ws) : Promise.resolve([])).then((drawn) => {
      const job = makeDrawing(ws, { ...options, dimensions: drawn }, setProgress);
      abort.current = job.abort;
      return job.done;
    });
    begun
      .then(({ text, curves, tolerance }) => {
        download(
          text,
          fileName(ws.model.getState().detail?.name ?? 'Model', 'drawing', options.format),
          options.format === 'svg' ? 'image/svg+xml' : 'application/dxf',
        );
        setSaid(
          `${curves} lines, arcs and polylines; polylines within ${tolerance.toPrecision(2)} mm of the curve.`,
        );
      }, toast.failed)
      .finally(() => setProgress(null));
  };
  const cancel = () => {
    abort.current();
    setProgress(null);
  };
  return { progress, said, make, cancel };
}

/** A line drawing of the view as SVG or DXF, computed in a worker. */
export function DrawingForm() {
  const ws = useWorkspace();
  const cut = useStore(ws.section, (s) => cuttingPlanes(s).length > 0);
  const [options, setOptions] = useState<DrawingOptions>(() => ({
    format: 'svg',
    scale: 1,
    smooth: false,
    hatched: styleOfPane(ws, activePane(ws).id).caps === 'hatched',
    // What a section shows needs no hidden lines, and they would cross its hatching (ISO 128-3).
    hidden: !cut,
    dimensions: true,
  }));
  const set = (values: Partial<DrawingOptions>) => setOptions((o) => ({ ...o, ...values }));
  const { format, scale } = options;
  const { progress, said, make, cancel } = useDrawing(options);
  return (
    <form
      className="mt-3 grid grid-cols-[100px_minmax(0,1fr)] items-center gap-x-3 gap-y-2"
      onSubmit={(e) => {
        e.preventDefault();
        make();
      }}
    >
      <span>Format</span>
      <Choice
        label="Format"
        value={format}
        options={[
          ['svg', 'SVG'],
          ['dxf', 'DXF'],
        ]}
        onChange={(format) => set({ format })}
      />
      <span>Scale</span>
      <select
        aria-label="Scale of the drawing"
        value={format === 'dxf' ? 1 : scale}
        disabled={format === 'dxf'}
        onChange={(e) => set({ scale: Number(e.target.value) })}
        className="h-8 rounded border border-border bg-well px-2"
      >
        {SCALES.map(([v, t]) => (
          <option key={t} value={v}>
            {t}
          </option>
        ))}
      </select>
      <span>Lines</span>
      <div className="space-y-1">
        {LINES.map(([key, says]) => (
          <CheckBox key={key} checked={options[key]} onChange={(on) => set({ [key]: on })}>
            {says}
          </CheckBox>
        ))}
        {cut && (
          <CheckBox checked={options.hatched} onChange={(hatched) => set({ hatched })}>
            Cut faces hatched
          </CheckBox>
        )}
      </div>
      <p className="col-span-2 text-[12.5px] text-soft">
        Orthographic, of what is shown in the pane under the cursor. Line kinds after ISO 128-2: visible 0.5
        mm, hidden dashed 0.25 mm. DXF is in millimetres at 1:1.
      </p>
      {cut && (
        <p role="note" className="col-span-2 text-[12.5px] text-soft">
          Drawn as the section leaves it. The cut alone, with a layer for each component, is saved from the
          flat view of the Section task.
        </p>
      )}
      {said && (
        <p role="status" className="col-span-2 text-[13px] text-green">
          {said}
        </p>
      )}
      <div className="col-span-2 mt-1 flex items-center justify-end gap-3">
        {progress !== null && <Progress share={progress} cancel={cancel} />}
        <button
          type="submit"
          disabled={progress !== null}
          className="flex items-center gap-1.5 rounded bg-blue px-3 py-1.5 font-medium text-on-blue disabled:opacity-60"
        >
          <Download size={15} aria-hidden /> {progress !== null ? 'Drawing …' : 'Save'}
        </button>
      </div>
    </form>
  );
}

function Progress({ share, cancel }: { share: number; cancel: () => void }) {
  return (
    <>
      <progress
        value={share}
        max={1}
        aria-label="Progress of the drawing"
        className="flex-1 accent-(--blue)"
      />
      <button
        type="button"
        className="rounded border border-border px-3 py-1.5 hover:bg-hover"
        onClick={cancel}
      >
        Cancel
      </button>
    </>
  );
}

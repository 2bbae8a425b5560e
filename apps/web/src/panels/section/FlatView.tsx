import { boxOfLayers, isThin, pathOf, writeCutSvg, type SheetMap } from '@bathyscope/core/drawing';
import { scale, type Point2 } from '@bathyscope/core/math';
import { startOf, toleranceOf, type PlaneCurve } from '@bathyscope/core/section';
import { TINY } from '@bathyscope/core/tolerances';
import { formatQuantity } from '@bathyscope/core/units';
import { Download, Maximize2, Minimize2, Scan, X } from 'lucide-react';
import { useEffect, useMemo, useRef, useState, type PointerEvent } from 'react';
import { toast } from '../../ui/notices.ts';
import { useStore } from 'zustand';
import { download, fileName } from '../../pictures/export-file.ts';
import { writeCutDxf } from '../../pictures/write-cut-dxf.ts';
import { type PlaneCut } from '../../state/cut-store.ts';
import { samePick, type Picked } from '../../state/selection-store.ts';
import { IconButton } from '../../ui/IconButton.tsx';
import { cssColour } from '../parts/part-colour.ts';
import { cutLayers, layersOf } from '../../pictures/cut-layers.ts';
import type { Workspace } from '../../workspace/workspace.ts';
import { nameOnFlat, pickOnFlat } from '../../workspace/picking/flat-picks.ts';
import { clickOn } from '../../commands/pick/clicks.ts';
import { useDerived } from '../use-derived.ts';
import { useWorkspace } from '../use-workspace.ts';

/** px of lines' distance at the usual spacing. */
const HATCH = 9;

/** What of the drawing is seen: its middle in mm and mm for one px. */
interface Frame {
  x: number;
  y: number;
  mm: number;
}

/** From the plane of the cut to px of the drawing. */
const mapOf = (frame: Frame, size: { width: number; height: number }): SheetMap => ({
  x: (v) => (v - frame.x) / frame.mm + size.width / 2,
  y: (v) => size.height / 2 - (v - frame.y) / frame.mm,
  scale: 1 / frame.mm,
});

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
        <Drawing key={plane.plane.id} plane={plane} />
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
      <label className="mr-1 flex items-center gap-1 text-[13px]">
        <input
          type="checkbox"
          className="accent-(--blue)"
          checked={hatched}
          onChange={(e) => ws.flat.setState({ hatched: e.target.checked })}
        />{' '}
        Hatch
      </label>
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

function Drawing({ plane }: { plane: PlaneCut }) {
  const ws = useWorkspace();
  const { picked, hover } = useStore(ws.selection);
  const hatched = useStore(ws.flat, (s) => s.hatched);
  const unit = useStore(ws.profile, (s) => s.unit);
  const layers = useDerived(cutLayers, plane);
  const ref = useRef<SVGSVGElement>(null);
  const [size, setSize] = useState({ width: 1, height: 1 });
  const [frame, setFrame] = useState<Frame | null>(null);
  const [at, setAt] = useState<Point2 | null>(null);
  const drag = useRef<{ x: number; y: number; frame: Frame; moved: boolean } | null>(null);
  const fitted = (): Frame => {
    const box = boxOfLayers(layers);
    return {
      x: (box.minX + box.maxX) / 2,
      y: (box.minY + box.maxY) / 2,
      mm: Math.max((box.maxX - box.minX) / size.width, (box.maxY - box.minY) / size.height, TINY) * 1.15,
    };
  };
  useEffect(() => {
    const watcher = new ResizeObserver(([e]) =>
      setSize({ width: e.contentRect.width, height: e.contentRect.height }),
    );
    watcher.observe(ref.current!);
    return () => watcher.disconnect();
  }, []);
  const shown = frame ?? fitted();
  const { x, y } = mapOf(shown, size);
  const toModel = (px: number, py: number): Point2 => [
    (px - size.width / 2) * shown.mm + shown.x,
    (size.height / 2 - py) * shown.mm + shown.y,
  ];
  const place = (e: { clientX: number; clientY: number }): readonly [number, number] => {
    const box = ref.current!.getBoundingClientRect();
    return [e.clientX - box.left, e.clientY - box.top];
  };
  useEffect(() => {
    const svg = ref.current!;
    // React listens passively, which could not keep the page from scrolling.
    const wheel = (e: WheelEvent) => {
      e.preventDefault();
      const [px, py] = place(e);
      const factor = 1.15 ** (e.deltaY / 100);
      const [mx, my] = toModel(px, py);
      const mm = shown.mm * factor;
      setFrame({ mm, x: mx - (px - size.width / 2) * mm, y: my - (size.height / 2 - py) * mm });
    };
    svg.addEventListener('wheel', wheel, { passive: false });
    return () => svg.removeEventListener('wheel', wheel);
  });

  const pickAt = (p: Point2): Picked | null => pickOnFlat(layers, plane, p, shown.mm);
  const move = (e: PointerEvent) => {
    const [px, py] = place(e);
    setAt(toModel(px, py));
    const d = drag.current;
    if (!d) return ws.selection.getState().setHover(pickAt(toModel(px, py)));
    if (!d.moved && Math.hypot(px - d.x, py - d.y) < 4) return;
    d.moved = true;
    setFrame({ ...d.frame, x: d.frame.x - (px - d.x) * shown.mm, y: d.frame.y + (py - d.y) * shown.mm });
  };
  const up = (e: PointerEvent) => {
    const d = drag.current;
    drag.current = null;
    if (!d || d.moved) return;
    clickOn(ws, pickAt(toModel(...place(e))), e.shiftKey || e.ctrlKey);
  };
  const lit = (list: readonly Picked[], stroke: string, width: number) =>
    list
      .filter((i) => i.plane === plane.plane.id)
      .map((item, i) => {
        const curve: PlaneCurve | undefined = layers.find((l) => l.path === item.component)?.loops.flat()[
          item.index
        ];
        if (!curve) return null;
        if (item.kind === 'corner')
          return <circle key={i} cx={x(startOf(curve)[0])} cy={y(startOf(curve)[1])} r={4.5} fill={stroke} />;
        return item.kind === 'outline' ? (
          <path
            key={i}
            d={pathOf([curve], { x, y, scale: 1 / shown.mm }, false)}
            stroke={stroke}
            strokeWidth={width}
            fill="none"
          />
        ) : null;
      });
  // Moving the cursor draws nothing anew but what is lit.
  const { x: middleX, y: middleY, mm } = shown;
  const paths = useMemo(
    () => <Paths layers={layers} frame={{ x: middleX, y: middleY, mm }} size={size} hatched={hatched} />,
    [layers, middleX, middleY, mm, size, hatched],
  );
  return (
    <div className="relative min-h-0 flex-1">
      <svg
        ref={ref}
        tabIndex={0}
        data-testid="flat"
        aria-label={`Drawing of ${plane.plane.name}: wheel zooms, drag pans, click picks`}
        className="absolute inset-0 size-full touch-none bg-well outline-offset-[-3px]"
        onPointerDown={(e) => {
          const [px, py] = place(e);
          e.currentTarget.setPointerCapture(e.pointerId);
          drag.current = { x: px, y: py, frame: shown, moved: false };
        }}
        onPointerMove={move}
        onPointerUp={up}
        onPointerLeave={() => (setAt(null), ws.selection.getState().setHover(null))}
        onDoubleClick={() => setFrame(null)}
      >
        {paths}
        {lit(hover ? [hover] : [], 'var(--blue)', 3)}
        {lit(picked, 'var(--magenta)', 3)}
        <Span picked={picked} plane={plane} layers={layers} x={x} y={y} />
      </svg>
      <div className="absolute bottom-1.5 left-2 flex items-center gap-2 rounded bg-panel/80 px-1.5 text-[12.5px] text-soft">
        <IconButton icon={Scan} label="Fit the drawing" className="size-6" onClick={() => setFrame(null)} />
        <span className="figures">
          {at
            ? `x ${formatQuantity(at[0], 'length', unit).text}  y ${formatQuantity(at[1], 'length', unit).text} ${unit}`
            : `${layers.length} component${layers.length === 1 ? '' : 's'}`}
        </span>
      </div>
      <Hint
        picked={picked.filter((p) => p.plane === plane.plane.id)}
        hover={hover && !picked.some((p) => samePick(p, hover)) ? hover : null}
        layers={layers}
      />
    </div>
  );
}

/** The cut faces, each with its hatch and outline. */
function Paths({
  layers,
  frame,
  size,
  hatched,
}: {
  layers: ReturnType<typeof layersOf>;
  frame: Frame;
  size: { width: number; height: number };
  hatched: boolean;
}) {
  const map = mapOf(frame, size);
  return (
    <>
      <defs>
        {layers.map((l, i) => (
          <pattern
            key={i}
            id={`flat-hatch-${i}`}
            patternUnits="userSpaceOnUse"
            width={HATCH * l.hatch.spacing}
            height={HATCH * l.hatch.spacing}
            patternTransform={`rotate(${(-l.hatch.angle * 180) / Math.PI})`}
          >
            <rect width={HATCH * 3} height={HATCH * 3} fill={cssColour(l.colour)} fillOpacity={0.3} />
            <line x1={0} y1={0} x2={HATCH * 3} y2={0} stroke="var(--ink)" strokeWidth={1} />
          </pattern>
        ))}
      </defs>
      {layers.map((l, i) => (
        <g key={l.path}>
          {l.loops.length > 0 && (
            <path
              fillRule="evenodd"
              fill={
                !hatched
                  ? 'none'
                  : isThin(l, HATCH * frame.mm)
                    ? cssColour(scale(l.colour, 0.5))
                    : `url(#flat-hatch-${i})`
              }
              stroke="var(--ink)"
              strokeWidth={1.8}
              strokeLinejoin="round"
              d={l.loops.map((loop) => pathOf(loop, map, true)).join('')}
            >
              <title>{l.name}</title>
            </path>
          )}
          {l.open.map((loop, k) => (
            <path key={k} fill="none" stroke="var(--amber)" strokeWidth={1.8} d={pathOf(loop, map, false)} />
          ))}
        </g>
      ))}
    </>
  );
}

/** The line between two picked corners, as a dimension would run. */
function Span({
  picked,
  plane,
  layers,
  x,
  y,
}: {
  picked: readonly Picked[];
  plane: PlaneCut;
  layers: ReturnType<typeof layersOf>;
  x: (v: number) => number;
  y: (v: number) => number;
}) {
  const corners = picked
    .filter((p) => p.plane === plane.plane.id && p.kind === 'corner')
    .map((p) => layers.find((l) => l.path === p.component)?.loops.flat()[p.index]);
  if (corners.length !== 2 || !corners[0] || !corners[1]) return null;
  const [a, b] = corners.map((c) => startOf(c!));
  return (
    <line
      x1={x(a[0])}
      y1={y(a[1])}
      x2={x(b[0])}
      y2={y(b[1])}
      stroke="var(--magenta)"
      strokeWidth={1.2}
      strokeDasharray="6 3"
    />
  );
}

/** What a click would pick, in a few words. */
function Hint({
  picked,
  hover,
  layers,
}: {
  picked: readonly Picked[];
  hover: Picked | null;
  layers: ReturnType<typeof layersOf>;
}) {
  const ws = useWorkspace();
  const unit = useStore(ws.profile, (s) => s.unit);
  const curve = hover && layers.find((l) => l.path === hover.component)?.loops.flat()[hover.index];
  if (!hover || !curve)
    return picked.length === 1 ? (
      <p className="absolute right-2 bottom-1.5 rounded bg-panel/80 px-1.5 text-[12.5px] text-soft">
        Shift+click another for the distance
      </p>
    ) : null;
  const q = (mm: number) => `${formatQuantity(mm, 'length', unit).text} ${unit}`;
  return (
    <p className="figures absolute right-2 bottom-1.5 rounded bg-panel/80 px-1.5 text-[12.5px]">
      {nameOnFlat(hover.kind, curve, q)}
    </p>
  );
}

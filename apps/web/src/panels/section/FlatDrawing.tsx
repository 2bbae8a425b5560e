import { isThin, pathOf } from '@bathyscope/core/drawing';
import { scale, type Point2 } from '@bathyscope/core/math';
import { startOf, type PlaneCurve } from '@bathyscope/core/section';
import { formatQuantity } from '@bathyscope/core/units';
import { Scan } from 'lucide-react';
import { useMemo, useRef, useState, type PointerEvent } from 'react';
import { useStore } from 'zustand';
import { clickOn } from '../../commands/pick/clicks.ts';
import { cutLayers, layersOf } from '../../pictures/cut-layers.ts';
import { type PlaneCut } from '../../state/cut-store.ts';
import { samePick, type Picked } from '../../state/selection-store.ts';
import { IconButton } from '../../ui/IconButton.tsx';
import { nameOnFlat, pickOnFlat } from '../../workspace/picking/flat-picks.ts';
import { cssColour } from '../parts/part-colour.ts';
import { useDerived } from '../use-derived.ts';
import { useWorkspace } from '../use-workspace.ts';
import { mapOf, useFlatFrame, type Frame, type Size } from './use-flat-frame.ts';

/** px of lines' distance at the usual spacing. */
const HATCH = 9;

/** A cut as a drawing: the wheel zooms, a drag pans, a click picks. */
export function FlatDrawing({ plane }: { plane: PlaneCut }) {
  const ws = useWorkspace();
  const { picked, hover } = useStore(ws.selection);
  const hatched = useStore(ws.flat, (s) => s.hatched);
  const unit = useStore(ws.profile, (s) => s.unit);
  const layers = useDerived(cutLayers, plane);
  const ref = useRef<SVGSVGElement>(null);
  const { size, shown, setFrame, toModel, place } = useFlatFrame(ref, layers);
  const [at, setAt] = useState<Point2 | null>(null);
  const drag = useRef<{ x: number; y: number; frame: Frame; moved: boolean } | null>(null);
  const { x, y } = mapOf(shown, size);
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
        <Lit items={hover ? [hover] : []} colour="var(--blue)" {...{ plane, layers, frame: shown, size }} />
        <Lit items={picked} colour="var(--magenta)" {...{ plane, layers, frame: shown, size }} />
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

interface LitProps {
  items: readonly Picked[];
  colour: string;
  plane: PlaneCut;
  layers: ReturnType<typeof layersOf>;
  frame: Frame;
  size: Size;
}

/** What is picked or pointed at: outlines and corners of the cut. */
function Lit({ items, colour, plane, layers, frame, size }: LitProps) {
  const map = mapOf(frame, size);
  return items
    .filter((i) => i.plane === plane.plane.id)
    .map((item, i) => {
      const curves = layers.find((l) => l.path === item.component)?.loops.flat();
      const curve: PlaneCurve | undefined = curves?.[item.index];
      if (!curve) return null;
      const [u, v] = startOf(curve);
      if (item.kind === 'corner') return <circle key={i} cx={map.x(u)} cy={map.y(v)} r={4.5} fill={colour} />;
      return item.kind === 'outline' ? (
        <path key={i} d={pathOf([curve], map, false)} stroke={colour} strokeWidth={3} fill="none" />
      ) : null;
    });
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
  size: Size;
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

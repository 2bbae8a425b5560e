import { useEffect, useLayoutEffect, useRef, useState } from 'react';
import { useStore } from 'zustand';
import { cardPlace } from '../../workspace/measuring/card-place.ts';
import { FiguresOfPicked } from '../measure/Figures.tsx';
import { useWorkspace } from '../use-workspace.ts';

/** px */
const MARGIN = 12;
/** ms after which a view rests. */
const RESTS = 250;

/** The card that always says what is picked, and its figures; in the task Measure its panel does. */
export function Readout() {
  const ws = useWorkspace();
  const picked = useStore(ws.selection, (s) => s.picked);
  const ready = useStore(ws.model, (s) => s.status === 'ready');
  const measuring = useStore(ws.profile, (s) => s.task === 'measure');
  const { open: flat, wide } = useStore(ws.flat);
  const shown = ready && picked.length > 0 && !measuring;
  const card = useRef<HTMLElement>(null);
  const left = useClearSide(card, shown && !flat);
  // Beside the flat view, not over what is measured on it.
  const place = !flat
    ? `top-3 ${left ? 'left-3' : 'right-3'}`
    : wide
      ? 'top-12 right-3'
      : 'top-3 right-[calc(50%+0.75rem)]';
  if (!shown) return null;
  return (
    <section
      ref={card}
      aria-label="Readout"
      className={`absolute ${place} z-20 flex max-h-[calc(100%-3.5rem)] w-[252px] flex-col overflow-y-auto rounded-md border border-line bg-panel shadow-card`}
    >
      <FiguresOfPicked items={picked} />
    </section>
  );
}

/** Whether a card stands on the left: where it hides nothing that is picked, and least of the model. */
function useClearSide(card: { readonly current: HTMLElement | null }, shown: boolean): boolean {
  const ws = useWorkspace();
  const picked = useStore(ws.selection, (s) => s.picked);
  const [left, setLeft] = useState(false);
  const look = useRef<(turned: boolean) => void>(() => {});
  look.current = (turned) => {
    const { offsetWidth: width, offsetHeight: height, offsetParent: scene } = card.current ?? {};
    if (!width || !height || !scene) return;
    const place = (x: number) => ({ left: x, top: MARGIN, right: x + width, bottom: MARGIN + height });
    const places = [place(scene.clientWidth - MARGIN - width)];
    // Several panes have their captions in the upper left.
    if (ws.camera.getState().panes.length === 1) places.push(place(MARGIN));
    setLeft(cardPlace(ws, places, left && places.length > 1 ? 1 : 0, turned) === 1);
  };
  useLayoutEffect(() => {
    if (shown) look.current(false);
    else setLeft(false);
  }, [shown, picked]);
  useEffect(() => {
    if (!shown) return undefined;
    let timer: ReturnType<typeof setTimeout>;
    const stop = ws.camera.subscribe(() => {
      clearTimeout(timer);
      timer = setTimeout(() => look.current(true), RESTS);
    });
    return () => {
      stop();
      clearTimeout(timer);
    };
  }, [ws, shown]);
  return left;
}

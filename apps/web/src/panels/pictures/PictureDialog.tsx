import { CheckBox } from '../../ui/CheckBox.tsx';
import { DEFAULT_LENS, MAX_LENS, MIN_LENS, type Projection } from '@bathyscope/core/camera';
import { bareUnit } from '@bathyscope/core/units';
import { ClipboardCopy, Download, Printer } from 'lucide-react';
import { useState } from 'react';
import { toast } from '../../ui/notices.ts';
import { useStore } from 'zustand';
import { copyPicture } from '../../commands/keep/picture-commands.ts';
import { download, fileName, printPicture } from '../../pictures/export-file.ts';
import { exactSize, makePicture, type PictureOptions } from '../../pictures/make-picture.ts';
import { LARGEST_PICTURE } from '../../state/scene-port.ts';
import { NumberField } from '../../ui/NumberField.tsx';
import { Choice } from '../../ui/Choice.tsx';
import { DrawingForm } from './DrawingForm.tsx';
import type { Workspace } from '../../workspace/workspace.ts';
import { Window } from '../../ui/Window.tsx';
import { useSeen } from '../use-derived.ts';
import { useWorkspace } from '../use-workspace.ts';
import { SCALES } from './scales.ts';
import { activePane } from '../../workspace/view/panes.ts';
import { allPresets } from '../../workspace/view/styles.ts';

/** Hands the view on: as a picture of any size, or as a line drawing at true scale. */
export function PictureDialog() {
  const ws = useWorkspace();
  const { open, pictureKind } = useStore(ws.dialog);
  const close = () => ws.dialog.setState({ open: null });
  return (
    <Window open={open === 'picture'} close={close} title="Hand the view on" className="w-[480px]">
      <Choice
        label="As"
        value={pictureKind}
        options={[
          ['picture', 'Picture'],
          ['drawing', 'Line drawing'],
        ]}
        onChange={(kind) => ws.dialog.setState({ pictureKind: kind })}
      />
      {pictureKind === 'picture' ? <PictureForm close={close} /> : <DrawingForm />}
    </Window>
  );
}

const FIELD = 'h-8 rounded border border-border bg-well px-2';
const SIDE = {
  kind: 'number' as const,
  decimals: 0,
  className: 'w-20',
  check: (px: number) =>
    px >= 1 && px <= LARGEST_PICTURE ? null : `Between 1 and ${LARGEST_PICTURE} pixels.`,
};
const inDegrees = (angle: number) => Math.round(angle / bareUnit('angle', 'mm'));
const LENS_RANGE = `Between ${inDegrees(MIN_LENS)} and ${inDegrees(MAX_LENS)}°.`;
function PictureForm({ close }: { close: () => void }) {
  const { size } = useSeen(activePane);
  const [options, setOptions] = useState<PictureOptions>({
    width: Math.round(size.width * 2),
    height: Math.round(size.height * 2),
    type: 'image/png',
    background: 'theme',
    projection: 'as shown',
    lens: DEFAULT_LENS,
    references: false,
    dimensions: true,
    exact: null,
  });
  const [styleId, setStyleId] = useState('shown');
  const set = (values: Partial<PictureOptions>) => setOptions((o) => ({ ...o, ...values }));
  const presets = useSeen(allPresets);
  const wanted = { ...options, style: presets.find((p) => p.id === styleId)?.style };
  const size_ = useSeen((now) => sizeOf(now, options));
  return (
    <form
      className="mt-3 grid grid-cols-[100px_minmax(0,1fr)] items-center gap-x-3 gap-y-2"
      onSubmit={(e) => e.preventDefault()}
    >
      <span>Size</span>
      <SizeFields {...{ options, set }} />
      <span />
      <p
        className={`text-[12.5px] ${size_.wrong ? 'text-red' : 'text-soft'}`}
        role={size_.wrong ? 'alert' : undefined}
      >
        {size_.text}
      </p>
      <span>Format</span>
      <Choice
        label="Format"
        value={options.type}
        options={[
          ['image/png', 'PNG'],
          ['image/jpeg', 'JPEG'],
        ]}
        onChange={(type) =>
          set({
            type,
            ...(type === 'image/jpeg' && options.background === 'transparent' && { background: 'white' }),
          })
        }
      />
      <span>Background</span>
      <Choice
        label="Picture background"
        value={options.background}
        options={[
          ['theme', 'As shown'],
          ['white', 'White'],
          ...(options.type === 'image/png' ? ([['transparent', 'Transparent']] as const) : []),
        ]}
        onChange={(background) => set({ background })}
      />
      <span>Style</span>
      <select
        aria-label="Style of the picture"
        value={styleId}
        onChange={(e) => setStyleId(e.target.value)}
        className={FIELD}
      >
        <option value="shown">As shown</option>
        {presets.map((p) => (
          <option key={p.id} value={p.id}>
            {p.name}
          </option>
        ))}
      </select>
      <span>Projection</span>
      <ProjectionFields {...{ options, set }} />
      <span />
      <CheckBox checked={options.references} onChange={(on) => set({ references: on })}>
        With reference geometry
      </CheckBox>
      <span />
      <CheckBox checked={options.dimensions} onChange={(on) => set({ dimensions: on })}>
        With what is measured
      </CheckBox>
      <PictureActions options={wanted} wrong={size_.wrong} close={close} />
    </form>
  );
}

interface FieldsProps {
  options: PictureOptions;
  set: (values: Partial<PictureOptions>) => void;
}

function SizeFields({ options, set }: FieldsProps) {
  return (
    <div className="flex items-center gap-1">
      <select
        aria-label="Kind of size"
        value={options.exact ? 'exact' : 'free'}
        onChange={(e) => set({ exact: e.target.value === 'exact' ? { scale: 1, dpi: 150 } : null })}
        className={`${FIELD} w-28`}
      >
        <option value="free">Pixels</option>
        <option value="exact">Exact scale</option>
      </select>
      {options.exact ? (
        <>
          <select
            aria-label="Scale"
            value={options.exact.scale}
            onChange={(e) => set({ exact: { ...options.exact!, scale: Number(e.target.value) } })}
            className={FIELD}
          >
            {SCALES.map(([v, t]) => (
              <option key={t} value={v}>
                {t}
              </option>
            ))}
          </select>
          <NumberField
            label="Dots per inch"
            kind="number"
            unit="dpi"
            decimals={0}
            value={options.exact.dpi}
            check={(dpi) => (dpi >= 36 && dpi <= 1200 ? null : 'Between 36 and 1200 dots per inch.')}
            onChange={(dpi) => set({ exact: { ...options.exact!, dpi: Math.round(dpi) } })}
            className="w-20"
          />
        </>
      ) : (
        <>
          <NumberField
            {...SIDE}
            label="Width"
            unit="px"
            value={options.width}
            onChange={(width) => set({ width: Math.round(width) })}
          />
          ×
          <NumberField
            {...SIDE}
            label="Height"
            unit="px"
            value={options.height}
            onChange={(height) => set({ height: Math.round(height) })}
          />
        </>
      )}
    </div>
  );
}

function ProjectionFields({ options, set }: FieldsProps) {
  return (
    <div className="flex items-center gap-2">
      <select
        aria-label="Projection of the picture"
        value={options.exact ? 'orthographic' : options.projection}
        disabled={options.exact !== null}
        onChange={(e) => set({ projection: e.target.value as 'as shown' | Projection })}
        className={`${FIELD} flex-1`}
      >
        <option value="as shown">As shown</option>
        <option value="orthographic">Orthographic</option>
        <option value="perspective">Perspective</option>
      </select>
      {options.projection === 'perspective' && !options.exact && (
        <label className="flex items-center gap-1">
          lens{' '}
          <NumberField
            label="Lens angle of the picture"
            kind="angle"
            unit="°"
            decimals={0}
            value={options.lens}
            check={(lens) => (lens >= MIN_LENS && lens <= MAX_LENS ? null : LENS_RANGE)}
            onChange={(lens) => set({ lens })}
            className="w-16"
          />
        </label>
      )}
    </div>
  );
}

interface ActionsProps {
  options: PictureOptions;
  /** Whether no picture of that size can be made. */
  wrong: boolean;
  close: () => void;
}

function PictureActions({ options, wrong, close }: ActionsProps) {
  const ws = useWorkspace();
  const [busy, setBusy] = useState(false);
  const name = ws.model.getState().detail?.name ?? 'Model';
  const act = (work: () => Promise<void>) => {
    setBusy(true);
    work()
      .then(close, toast.failed)
      .finally(() => setBusy(false));
  };
  return (
    <div className="col-span-2 mt-2 flex justify-end gap-2">
      <button
        type="button"
        disabled={busy}
        className="flex items-center gap-1.5 rounded border border-border px-3 py-1.5 hover:bg-hover"
        onClick={() =>
          act(async () =>
            printPicture(
              await makePicture(ws, options),
              options.exact ? exactSize(ws, options.exact).mmWide : undefined,
            ),
          )
        }
      >
        <Printer size={15} aria-hidden /> Print
      </button>
      <button
        type="button"
        disabled={busy}
        className="flex items-center gap-1.5 rounded border border-border px-3 py-1.5 hover:bg-hover"
        onClick={() => act(() => copyPicture(ws, options))}
      >
        <ClipboardCopy size={15} aria-hidden /> Copy
      </button>
      <button
        type="submit"
        disabled={busy || wrong}
        className="flex items-center gap-1.5 rounded bg-blue px-3 py-1.5 font-medium text-on-blue disabled:opacity-60"
        onClick={() =>
          act(async () =>
            download(
              await makePicture(ws, options),
              fileName(name, 'picture', options.type === 'image/png' ? 'png' : 'jpg'),
            ),
          )
        }
      >
        <Download size={15} aria-hidden /> {busy ? 'Drawing …' : 'Save'}
      </button>
    </div>
  );
}

function sizeOf(ws: Workspace, options: PictureOptions): { text: string; wrong: boolean } {
  if (!options.exact)
    return {
      text: `${((options.width * options.height) / 1e6).toFixed(1)} megapixels; at most ${LARGEST_PICTURE} px on a side.`,
      wrong: false,
    };
  try {
    const { width, height } = exactSize(ws, options.exact);
    return {
      text: `${width} × ${height} px: printed at ${options.exact.dpi} dpi it is true to scale.`,
      wrong: false,
    };
  } catch (error) {
    return { text: (error as Error).message, wrong: true };
  }
}

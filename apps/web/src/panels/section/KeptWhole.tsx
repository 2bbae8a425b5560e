import { CheckBox } from '../../ui/CheckBox.tsx';
import { DialogTitle } from '@headlessui/react';
import { X } from 'lucide-react';
import { memo, useState } from 'react';
import { useStore } from 'zustand';
import { commandById } from '../../commands/registry.ts';
import { runCommand } from '../../commands/run-command.ts';
import { keepWhole, wholePaths, wholeSuggestions } from '../../commands/cut/whole-commands.ts';
import { IconButton } from '../../ui/IconButton.tsx';
import { Window } from '../../ui/Window.tsx';
import { useSeen } from '../use-derived.ts';
import { useWorkspace } from '../use-workspace.ts';
import { record } from '../../workspace/perform.ts';

/** What sections do not cut, by part. Moving a plane changes nothing of it. */
export const KeptWhole = memo(function KeptWhole() {
  const ws = useWorkspace();
  const { byPath, detail } = useStore(ws.model);
  const paths = useSeen(wholePaths);
  const byPart = new Map<number, string[]>();
  for (const path of paths)
    byPart.set(byPath.get(path)!.part!, [...(byPart.get(byPath.get(path)!.part!) ?? []), path]);
  return (
    <section aria-label="Kept whole" className="mt-3">
      <h3 className="flex text-[12px] font-semibold tracking-wider text-soft uppercase">
        <span className="flex-1">Kept whole</span>
        <button
          type="button"
          className="font-normal tracking-normal normal-case text-blue hover:underline"
          onClick={() => runCommand(ws, commandById('suggest-whole'))}
        >
          Suggest …
        </button>
      </h3>
      {!paths.length && (
        <p className="text-[13px] text-soft">
          Everything is cut. Pick fasteners or shafts and choose <i>Keep whole</i>.
        </p>
      )}
      {[...byPart].map(([part, of]) => (
        <div key={part} className="flex items-center gap-1 border-b border-line text-[13px]">
          <span className="min-w-0 flex-1 truncate">{detail!.structure.parts[part].name}</span>
          {of.length > 1 && <span className="figures text-[12.5px] text-soft">{of.length} ×</span>}
          <IconButton
            icon={X}
            label={`Cut ${detail!.structure.parts[part].name} again`}
            className="size-6 text-soft"
            onClick={() => record(ws, keepWhole(ws, of, false))}
          />
        </div>
      ))}
    </section>
  );
});

/** What drawing practice would leave uncut, each with the reason; nothing is done until it is agreed to. */
export function WholeDialog() {
  const ws = useWorkspace();
  const open = useStore(ws.dialog, (s) => s.open === 'whole');
  const close = () => ws.dialog.setState({ open: null });
  return (
    <Window open={open} close={close} className="flex max-h-full w-[430px] flex-col">
      {open && <Suggestions close={close} />}
    </Window>
  );
}

function Suggestions({ close }: { close: () => void }) {
  const ws = useWorkspace();
  const [list] = useState(() => wholeSuggestions(ws));
  const [taken, setTaken] = useState(() => new Set(list.map((s) => s.part)));
  const toggle = (part: number) =>
    setTaken((old) =>
      old.has(part) ? new Set([...old].filter((p) => p !== part)) : new Set([...old, part]),
    );
  const paths = list.filter((s) => taken.has(s.part)).flatMap((s) => s.paths);
  return (
    <form
      className="flex min-h-0 flex-col"
      onSubmit={(e) => {
        e.preventDefault();
        close();
        if (paths.length) record(ws, keepWhole(ws, paths, true));
      }}
    >
      <DialogTitle className="font-semibold">Keep whole</DialogTitle>
      <p className="mb-2 text-[13px] text-soft">
        Drawing practice does not cut fasteners, shafts, pins, keys and balls. Found by name or shape:
      </p>
      <ul className="min-h-0 overflow-y-auto">
        {list.map(({ part, name, reason, paths: of }) => (
          <li key={part} className="border-b border-line last:border-0">
            <CheckBox className="py-1" checked={taken.has(part)} onChange={() => toggle(part)}>
              <span className="min-w-0 flex-1">
                <span className="block truncate">{name}</span>
                <span className="block text-[12.5px] text-soft">{reason}</span>
              </span>
              <span className="figures text-[12.5px] text-soft">{of.length} ×</span>
            </CheckBox>
          </li>
        ))}
      </ul>
      <div className="mt-4 flex justify-end gap-2">
        <button
          type="button"
          className="rounded border border-border px-3 py-1 hover:bg-hover"
          onClick={close}
        >
          Cancel
        </button>
        <button
          type="submit"
          disabled={!paths.length}
          className="rounded bg-blue px-3 py-1 font-medium text-on-blue disabled:opacity-60"
        >
          Keep {paths.length} whole
        </button>
      </div>
    </form>
  );
}

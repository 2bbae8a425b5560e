import { useQuery, useQueryClient } from '@tanstack/react-query';
import type { ProfileView } from '@bathyscope/contracts';
import { Download, Upload } from 'lucide-react';
import { useState, type ChangeEvent } from 'react';
import { toast } from '../../ui/notices.ts';
import { api } from '../../api/api.ts';
import { download } from '../../pictures/export-file.ts';
import { changeSettings } from '../../workspace/keeping/change-settings.ts';
import { habitsFile, readHabits } from '../../workspace/keeping/habits.ts';
import { useWorkspace } from '../use-workspace.ts';

const BUTTON =
  'flex cursor-pointer items-center gap-1.5 rounded border border-border px-3 py-1 hover:bg-hover';
/** Who this browser is, and its habits as a file. */
export function ProfileSettings() {
  return (
    <div className="max-w-md space-y-5">
      <ProfileName />
      <Habits />
    </div>
  );
}

function ProfileName() {
  const queries = useQueryClient();
  const { data, error } = useQuery({ queryKey: ['profile'], queryFn: () => api.profile() });
  const [typed, setTyped] = useState<string | null>(null);
  const save = () => {
    if (typed === null || typed.trim() === data?.name) return setTyped(null);
    api.renameProfile(typed.trim()).then(() => {
      queries.setQueryData<ProfileView>(['profile'], (known) => ({
        earlier: false,
        ...known,
        name: typed.trim(),
      }));
      setTyped(null);
    }, toast.failed);
  };
  return (
    <div>
      <label className="block font-medium" htmlFor="profile-name">
        Your name
      </label>
      <input
        id="profile-name"
        maxLength={80}
        placeholder="No name yet"
        className="mt-1 h-8 w-full rounded border border-border bg-well px-2"
        value={typed ?? data?.name ?? ''}
        onChange={(e) => setTyped(e.target.value)}
        onBlur={save}
        onKeyDown={(e) => {
          if (e.key === 'Enter') save();
          // Takes back what was typed, and leaves the window open.
          if (e.key === 'Escape' && typed !== null) {
            e.stopPropagation();
            setTyped(null);
          }
        }}
      />
      <p className="mt-1 text-[13px] text-soft">
        {error
          ? error.message
          : 'This browser has a profile of its own: its settings, its unit, and how it left each model. Saved views, names, sections and kept picks belong to the model and are seen by all.'}
      </p>
      {data?.earlier && (
        <p className="mt-2 text-[13px]">
          A profile that this browser had before is there again.{' '}
          <button
            type="button"
            className="text-blue hover:underline"
            onClick={() => void api.takeUpEarlierProfile().then(() => location.reload(), toast.failed)}
          >
            Take it up
          </button>
        </p>
      )}
    </div>
  );
}

function Habits() {
  const ws = useWorkspace();
  const load = (e: ChangeEvent<HTMLInputElement>) => {
    const [file] = e.target.files ?? [];
    e.target.value = '';
    file
      ?.text()
      .then((text) => {
        changeSettings(ws, readHabits(text));
        toast.success('The habits of the file are yours now.', { id: 'habits' });
      })
      .catch(toast.failed);
  };
  return (
    <div>
      <p className="font-medium">Habits</p>
      <p className="mb-2 text-[13px] text-soft">
        Gestures, keys, colours, unit, own styles and the arrangement of the page, to take to another browser.
      </p>
      <div className="flex gap-2">
        <button
          type="button"
          className={BUTTON}
          onClick={() => download(habitsFile(ws.profile), 'bathyscope habits.json', 'application/json')}
        >
          <Download size={15} aria-hidden /> Save habits
        </button>
        <label className={`${BUTTON} focus-within:outline-2`}>
          <Upload size={15} aria-hidden /> Load habits
          <input type="file" accept=".json,application/json" className="sr-only" onChange={load} />
        </label>
      </div>
    </div>
  );
}

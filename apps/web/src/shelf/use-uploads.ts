import { useQueryClient } from '@tanstack/react-query';
import { useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import { toast } from 'sonner';
import { upload } from '../api/api.ts';

export interface UploadEntry {
  key: string;
  name: string;
  /** 0–1 while it runs. */
  share: number;
  /** A sentence when it was refused. */
  error: string | null;
  abort: () => void;
}

/** Files on their way to the server. The same file dropped twice while it is on its way goes once. */
export function useUploads() {
  const [entries, setEntries] = useState<UploadEntry[]>([]);
  const active = useRef(new Set<string>());
  const queries = useQueryClient();
  const navigate = useNavigate();
  const change = (key: string, values: Partial<UploadEntry>) => setEntries((old) => old.map((e) => (e.key === key ? { ...e, ...values } : e)));
  const remove = (key: string) => setEntries((old) => old.filter((e) => e.key !== key));

  const start = (file: File) => {
    const key = `${file.name}/${file.size}/${file.lastModified}`;
    if (active.current.has(key)) return;
    active.current.add(key);
    const { done, abort } = upload(file, (share) => change(key, { share }));
    setEntries((old) => [{ key, name: file.name, share: 0, error: null, abort }, ...old.filter((e) => e.key !== key)]);
    done.then(
      ({ duplicate, model }) => {
        remove(key);
        void queries.invalidateQueries({ queryKey: ['models'] });
        if (duplicate) toast(`“${model.name}” is this very file: it is on the shelf already.`, { action: { label: 'Open', onClick: () => void navigate(`/models/${model.id}`) } });
      },
      (error: Error) => change(key, { error: error.message }),
    ).finally(() => active.current.delete(key));
  };
  return { uploads: entries, start, remove };
}

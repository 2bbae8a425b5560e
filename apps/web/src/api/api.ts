import { PAGE_HEADER } from '@bathyscope/contracts';
import type {
  BinnedModel,
  ClashCheck,
  JobView,
  KeptRecord,
  KeptState,
  Likeness,
  ModelDetail,
  ModelListItem,
  OwnMaterial,
  Problem,
  ProfileView,
  QuestionName,
  Questions,
  RecordAnswer,
  RecordChange,
  RevisionView,
  ShelfOrder,
  TagCount,
  UploadResult,
} from '@bathyscope/contracts';
import { underBase } from './under-base.ts';

/** An error of the API, with the server's sentence for the user. */
export class ApiError extends Error {
  readonly status: number;

  constructor(problem: Pick<Problem, 'status' | 'detail'>) {
    super(problem.detail);
    this.name = 'ApiError';
    this.status = problem.status;
  }
}

export const UNREACHABLE = 'The server does not answer. Check that Bathyscope is running and try again.';

async function call<T>(path: string, init?: RequestInit): Promise<T> {
  let response: Response;
  try {
    response = await fetch(underBase(`/api${path}`), {
      ...init,
      headers: { ...init?.headers, [PAGE_HEADER]: '1' },
    });
  } catch {
    throw new ApiError({ status: 0, detail: UNREACHABLE });
  }
  if (!response.ok) throw new ApiError(await problemOf(response));
  return (response.status === 204 ? undefined : await response.json()) as T;
}

async function problemOf(response: Response): Promise<Pick<Problem, 'status' | 'detail'>> {
  try {
    return (await response.json()) as Problem;
  } catch {
    return {
      status: response.status,
      detail: `The server answered with an error (${response.status}). Try again.`,
    };
  }
}

const json = (method: string, body: unknown): RequestInit => ({
  method,
  headers: { 'Content-Type': 'application/json' },
  body: JSON.stringify(body),
});

/** Bytes that a browser still sends for a page that is being left. */
const KEEPALIVE_LIMIT = 60_000;

const outliving = (init: RequestInit): RequestInit => ({
  ...init,
  keepalive: (init.body as string).length < KEEPALIVE_LIMIT,
});

/** The container of a part's geometry. @throws ApiError */
async function geometry(hash: string, signal: AbortSignal): Promise<ArrayBuffer> {
  let response: Response;
  try {
    response = await fetch(underBase(`/api/geometries/${hash}`), { signal });
  } catch (error) {
    signal.throwIfAborted();
    throw new ApiError({
      status: 0,
      detail: error instanceof Error && error.name === 'AbortError' ? error.message : UNREACHABLE,
    });
  }
  if (!response.ok) throw new ApiError(await problemOf(response));
  return response.arrayBuffer();
}

/** Models that are asked for at once. */
export const SHELF_PAGE = 60;

export const api = {
  /** One page of the shelf, newest first; `after` is the last model of the page before. */
  models: (wanted: { search: string; tag: string; sort: ShelfOrder }, after?: string) =>
    call<ModelListItem[]>(
      `/models?${new URLSearchParams({ limit: String(SHELF_PAGE), ...wanted, ...(after && { after }) })}`,
    ),
  tags: () => call<TagCount[]>('/models/tags'),
  /** @param revision the newest where undefined */
  model: (id: string, revision?: number) =>
    call<ModelDetail>(`/models/${id}${revision === undefined ? '' : `/revisions/${revision}`}`),
  revisions: (id: string) => call<RevisionView[]>(`/models/${id}/revisions`),
  /** @param to another model, instead of the revision before */
  likeness: (id: string, revision: number, to?: string) =>
    call<Likeness>(`/models/${id}/revisions/${revision}/likeness${to ? `?to=${to}` : ''}`),
  /** Makes another model the next revision of this one. */
  adoptRevision: (id: string, model: string) =>
    call<{ revision: number }>(`/models/${id}/revisions/adopt`, json('POST', { model })),
  setRevisionNote: (id: string, revision: number, note: string) =>
    call<void>(`/models/${id}/revisions/${revision}`, json('PATCH', { note })),
  removeRevision: (id: string, revision: number) =>
    call<void>(`/models/${id}/revisions/${revision}`, { method: 'DELETE' }),
  restoreRevision: (id: string, revision: number) =>
    call<void>(`/models/${id}/revisions/${revision}/restore`, { method: 'POST' }),
  rename: (id: string, name: string) => call<ModelListItem>(`/models/${id}`, json('PATCH', { name })),
  setTags: (id: string, tags: string[]) => call<ModelListItem>(`/models/${id}`, json('PATCH', { tags })),
  remove: (id: string) => call<void>(`/models/${id}`, { method: 'DELETE' }),
  bin: () => call<BinnedModel[]>('/bin'),
  purge: (id: string) => call<void>(`/bin/${id}`, { method: 'DELETE' }),
  restore: (id: string) => call<void>(`/models/${id}/restore`, { method: 'POST' }),
  setThumbnail: (id: string, png: Blob) =>
    call<void>(`/models/${id}/thumbnail`, {
      method: 'PUT',
      headers: { 'Content-Type': 'image/png' },
      body: png,
    }),
  viewState: (id: string) => call<KeptState>(`/models/${id}/view-state`),
  saveViewState: (id: string, document: object, revision: number) =>
    call<void>(`/models/${id}/view-state`, outliving(json('PUT', { document, revision }))),
  createLink: (id: string, document: object, revision: number) =>
    call<{ id: string }>(`/models/${id}/links`, json('POST', { document, revision })),
  link: (id: string, link: string) => call<KeptState>(`/models/${id}/links/${link}`),
  /** What is kept of a model: all of it, or those named. */
  records: (id: string, ids?: readonly string[]) =>
    call<KeptRecord[]>(`/models/${id}/records${ids ? `?ids=${ids.join(',')}` : ''}`),
  binnedRecords: (id: string) => call<KeptRecord[]>(`/models/${id}/records?bin=true`),
  /** @param revision that new ones are made on; the newest where undefined */
  changeRecords: (id: string, changes: readonly RecordChange[], revision?: number) =>
    call<RecordAnswer[]>(`/models/${id}/records`, outliving(json('PATCH', { changes, revision }))),
  purgeRecord: (id: string, record: string) =>
    call<void>(`/models/${id}/records/${record}/for-good`, { method: 'DELETE' }),
  setRecordPicture: (id: string, record: string, png: Blob) =>
    call<void>(`/models/${id}/records/${record}/picture`, {
      method: 'PUT',
      headers: { 'Content-Type': 'image/png' },
      body: png,
    }),
  /** Of this browser, which gets one when it has none. */
  profile: () => call<ProfileView>('/profile'),
  takeUpEarlierProfile: () => call<void>('/profile/earlier', { method: 'POST' }),
  renameProfile: (name: string) => call<void>('/profile', json('PUT', { name })),
  settings: () => call<{ values: Record<string, unknown> | null }>('/settings'),
  saveSettings: (values: object) => call<void>('/settings', outliving(json('PATCH', { values }))),
  materials: () => call<OwnMaterial[]>('/materials'),
  saveMaterial: ({ id, ...material }: OwnMaterial) => call<void>(`/materials/${id}`, json('PUT', material)),
  removeMaterial: (id: string) => call<void>(`/materials/${id}`, { method: 'DELETE' }),
  geometry,
  askCheck: (
    id: string,
    revision: number,
    asked: { about: string; among?: readonly string[]; some?: readonly string[] },
  ) => call<ClashCheck>(`/models/${id}/revisions/${revision}/clash-checks`, json('POST', asked)),
  check: (id: string, revision: number, check: string) =>
    call<ClashCheck>(`/models/${id}/revisions/${revision}/clash-checks/${check}`),
  newestCheck: (id: string, revision: number) =>
    call<{ check: ClashCheck | null }>(`/models/${id}/revisions/${revision}/clash-checks`),
  jobs: () => call<JobView[]>('/jobs'),
  job: (id: string) => call<JobView>(`/jobs/${id}`),
  cancelJob: (id: string) => call<void>(`/jobs/${id}`, { method: 'DELETE' }),
  /** Puts a question to the kernel about a revision of a model. */
  ask: <Q extends QuestionName>(id: string, revision: number, name: Q, asked: Questions[Q]['asked']) =>
    call<Questions[Q]['answered']>(
      `/models/${id}/revisions/${revision}/questions/${name}`,
      json('POST', asked),
    ),
};

/**
 * Uploads one file, as a model or to where a model's revisions are, with progress from
 * 0 to 1; `abort` ends it.
 */
export function upload(
  file: File,
  onProgress: (share: number) => void,
  to = '/api/models',
): { done: Promise<UploadResult>; abort: () => void } {
  const request = new XMLHttpRequest();
  const done = new Promise<UploadResult>((resolve, reject) => {
    request.upload.onprogress = (e) => e.lengthComputable && onProgress(e.loaded / e.total);
    request.onload = () => {
      const body = safeParse(request.responseText);
      if (request.status < 300 && body) resolve(body as UploadResult);
      else
        reject(
          new ApiError(
            (body as Problem | null) ?? {
              status: request.status,
              detail: `The server answered with an error (${request.status}). Try again.`,
            },
          ),
        );
    };
    request.onerror = () => reject(new ApiError({ status: 0, detail: UNREACHABLE }));
    request.onabort = () => reject(new ApiError({ status: 0, detail: 'The upload was cancelled.' }));
    request.open('POST', underBase(to));
    const form = new FormData();
    form.append('file', file, file.name);
    request.send(form);
  });
  return { done, abort: () => request.abort() };
}

function safeParse(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return null;
  }
}

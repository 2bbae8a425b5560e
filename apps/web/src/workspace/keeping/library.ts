import type { OwnMaterial } from '@bathyscope/contracts';
import { materialById, MATERIALS, type LibraryMaterial } from '@bathyscope/core/mass';
import { record } from '../perform.ts';
import type { Workspace } from '../workspace.ts';

/* The library of materials: what comes with the program, and what was added here. */

export const libraryOf = (ws: Workspace): LibraryMaterial[] => [...MATERIALS, ...ws.library.getState().own];

/** Asked for every component whenever what is shown changes. */
export const findMaterial = (ws: Workspace, id: string | undefined): LibraryMaterial | undefined =>
  id === undefined ? undefined : (materialById(id) ?? ws.library.getState().own.find((m) => m.id === id));

export async function loadLibrary(ws: Workspace): Promise<void> {
  ws.library.setState({ own: await ws.source.library.list() });
}

/** Adds a material, or changes one. @throws Error with a sentence, where the name is taken */
export async function saveMaterial(ws: Workspace, material: OwnMaterial): Promise<void> {
  if (MATERIALS.some((m) => m.name.toLowerCase() === material.name.trim().toLowerCase()))
    throw new Error(`“${material.name.trim()}” comes with the program. Choose another name.`);
  const before = ws.library.getState().own.find((m) => m.id === material.id);
  await put(ws, material);
  record(ws, {
    name: `material “${material.name}”`,
    undo: () => later(ws, before ? put(ws, before) : take(ws, material.id)),
    redo: () => later(ws, put(ws, material)),
  });
}

/**
 * Takes a material out of the library. Parts that it was given to have none then, and have it
 * again when it comes back.
 */
export async function removeMaterial(ws: Workspace, material: OwnMaterial): Promise<void> {
  await take(ws, material.id);
  record(ws, {
    name: `deletion of the material “${material.name}”`,
    undo: () => later(ws, put(ws, material)),
    redo: () => later(ws, take(ws, material.id)),
  });
}

async function put(ws: Workspace, material: OwnMaterial): Promise<void> {
  await ws.source.library.save(material);
  const rest = ws.library.getState().own.filter((m) => m.id !== material.id);
  ws.library.setState({ own: [...rest, material].sort((a, b) => a.name.localeCompare(b.name, 'en')) });
}

async function take(ws: Workspace, id: string): Promise<void> {
  await ws.source.library.remove(id);
  ws.library.setState((s) => ({ own: s.own.filter((m) => m.id !== id) }));
}

const later = (ws: Workspace, work: Promise<void>): void =>
  void work.catch((error: unknown) => ws.notify.failed(error, { id: 'library' }));

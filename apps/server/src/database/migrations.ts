import fs from 'node:fs';
import type { Knex } from 'knex';

/** Owns what no profile made, such as the demo and what scripts send; the first migration makes it. */
export const INSTALLATION = '00000000-0000-4000-8000-000000000001';

/**
 * Plain SQL, in the order of the names. Once landed, a migration is never edited; the next
 * change is the next file.
 */
const FOLDER = new URL('./migrations/', import.meta.url);

interface Migration {
  name: string;
  file: URL;
}

const migrations = (): Migration[] =>
  fs
    .readdirSync(FOLDER)
    .filter((f) => f.endsWith('.sql'))
    .sort()
    .map((f) => ({ name: f.replace(/\.sql$/, ''), file: new URL(f, FOLDER) }));

export const migrationNames = (): string[] => migrations().map((m) => m.name);

export const migrationSource: Knex.MigrationSource<Migration> = {
  getMigrations: () => Promise.resolve(migrations()),
  getMigrationName: (m) => m.name,
  // `?` in a statement is no placeholder here.
  getMigration: (m) =>
    Promise.resolve({
      up: (knex: Knex) => knex.raw(fs.readFileSync(m.file, 'utf8').replaceAll('?', '\\?')),
      down: () => Promise.reject(new Error('Migrations only go forward.')),
    }),
};

import type { TypedMass } from '@bathyscope/core/mass';
import { z } from 'zod';
import { carriedComponent, carriedPart, point, recordKind, type RecordKind } from './record-kind.ts';

/*
 * What parts and components are made of and weigh, where it was said here. Materials are ids of the library,
 * parts are keys of parts.
 */

export interface PartMaterial {
  part: string;
  material: string;
}

export const partMaterial: RecordKind<PartMaterial> = recordKind({
  name: 'part-material',
  version: 1,
  document: z.object({ part: z.string(), material: z.string() }),
  key: ({ part }) => part,
  parts: ({ part }) => [part],
  carried: carriedPart,
  title: ({ part }) => `material of “${part}”`,
});

export interface ComponentMaterial {
  component: string;
  material: string;
}

export const componentMaterial: RecordKind<ComponentMaterial> = recordKind({
  name: 'component-material',
  version: 1,
  document: z.object({ component: z.string(), material: z.string() }),
  key: ({ component }) => component,
  references: ({ component }) => [{ kind: 'component', component }],
  carried: carriedComponent,
  title: ({ component }) => `material of “${component.split('/').at(-1)}”`,
});

export interface TypedPartMass extends TypedMass {
  part: string;
}

export const typedMass: RecordKind<TypedPartMass> = recordKind({
  name: 'typed-mass',
  version: 1,
  document: z.object({ part: z.string(), kg: z.number().positive(), at: point.nullable().catch(null) }),
  key: ({ part }) => part,
  parts: ({ part }) => [part],
  carried: carriedPart,
  title: ({ part }) => `typed mass of “${part}”`,
});

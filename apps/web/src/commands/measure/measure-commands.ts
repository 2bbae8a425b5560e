import { LENGTH_UNITS } from '@bathyscope/core/units';
import { Layers2, Link2, Ruler, Scale, Scaling, Table2 } from 'lucide-react';
import { copyText } from '../keep/copy-text.ts';
import { changeSettings, openMeasure } from '../../workspace/keeping/change-settings.ts';
import type { Command } from '../command.ts';

export const MEASURE_COMMANDS: Command[] = [
  {
    id: 'measure',
    name: 'Measure',
    group: 'Measure',
    icon: Ruler,
    shortcut: 'M',
    searchWords: [
      'dimension',
      'distance',
      'ruler',
      'gap',
      'clearance',
      'angle',
      'length',
      'centre distance',
      'diameter',
      'radius',
      'area',
      'perimeter',
      'coordinates',
      'tolerance',
    ],
    needs: 'nothing',
    keepsMode: true,
    run: (ws) => changeSettings(ws, { task: 'measure' }),
  },
  {
    id: 'mass',
    name: 'Mass',
    group: 'Measure',
    icon: Scale,
    searchWords: [
      'weight',
      'weigh',
      'mass properties',
      'centre of gravity',
      'centre of mass',
      'inertia',
      'density',
      'material',
      'volume',
      'surface area',
      'bill of materials',
      'bom',
      'buoyancy',
      'balance',
      'how heavy',
    ],
    needs: 'nothing',
    keepsMode: true,
    run: (ws) => changeSettings(ws, { task: 'mass' }),
  },
  {
    id: 'unit',
    name: 'Unit of length: next',
    group: 'Measure',
    icon: Scaling,
    searchWords: ['units', 'inch', 'inches', 'millimetre', 'metre', 'metric', 'imperial'],
    needs: 'nothing',
    keepsMode: true,
    run: (ws) => {
      const { unit } = ws.profile.getState();
      const next = LENGTH_UNITS[(LENGTH_UNITS.indexOf(unit) + 1) % LENGTH_UNITS.length];
      changeSettings(ws, { unit: next });
      ws.notify(`Lengths are told in ${next} now.`, { id: 'unit' });
    },
  },
  {
    id: 'holes',
    name: 'Table of holes',
    group: 'Measure',
    icon: Table2,
    searchWords: ['hole table', 'drill table', 'bolt circle', 'hole list', 'bores', 'drilling'],
    needs: 'nothing',
    run: (ws) => openMeasure(ws, 'holes'),
  },
  {
    id: 'wall',
    name: 'Wall thickness',
    group: 'Measure',
    icon: Layers2,
    searchWords: ['thin', 'thinnest', 'thickness map', 'material thickness', 'wall map'],
    needs: 'nothing',
    run: (ws) => openMeasure(ws, 'wall'),
  },
  {
    id: 'copy-reference',
    name: 'Copy the reference',
    group: 'Measure',
    icon: Link2,
    searchWords: ['name of the face', 'identifier', 'path', 'script'],
    needs: 'thing',
    fits: ({ kind }) => kind === 'component' || kind === 'face' || kind === 'edge' || kind === 'vertex',
    wants: 'Components, faces, edges and vertices have references; cuts, points and bodies have none.',
    menu: 'thing',
    // As `bin/inspect --measure` takes them.
    run: (ws, items) => {
      const text = items
        .map(({ kind, component, index }) =>
          kind === 'component' ? component : `${component}#${kind}:${index}`,
        )
        .join('\n');
      void copyText(text).then(
        (done) =>
          done &&
          ws.notify(items.length === 1 ? `Copied: ${text}` : `${items.length} references are copied.`),
      );
    },
  },
];

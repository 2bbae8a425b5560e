import { referenceSystem } from '@bathyscope/contracts/records';
import { NoSystem } from '@bathyscope/core/measure';
import { Axis3d } from 'lucide-react';
import { added, kept, putRecords } from '../../workspace/keeping/records.ts';
import { keepSystem, systemOfPicks } from '../../workspace/measuring/systems.ts';
import type { Command } from '../command.ts';

export const SYSTEM_COMMANDS: Command[] = [
  {
    id: 'new-system',
    name: 'New reference system',
    group: 'Measure',
    icon: Axis3d,
    searchWords: ['coordinate system', 'datum', 'origin', 'local axes', 'coordinates', 'zero point'],
    needs: 'thing',
    run: (ws, picked) => {
      try {
        systemOfPicks(ws, picked);
      } catch (error) {
        if (error instanceof NoSystem) return void ws.notify(error.message, { id: 'refusal' });
        throw error;
      }
      const name = `System ${kept(ws, referenceSystem).length + 1}`;
      const made = added(ws, referenceSystem, keepSystem(ws, picked, name));
      const inverse = putRecords(ws, `reference system “${name}”`, [made]);
      ws.measure.setState({ displaySystem: made.id });
      return inverse;
    },
  },
];

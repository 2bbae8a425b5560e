import { NoSystem } from '@bathyscope/core';
import { Axis3d } from 'lucide-react';
import { toast } from '../../ui/notices.ts';
import { perform } from '../../workspace/perform.ts';
import { keepSystem, systemOfPicks } from '../../workspace/systems.ts';
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
      const { systems } = ws.preference.getState();
      try {
        systemOfPicks(ws, picked);
      } catch (error) {
        if (error instanceof NoSystem) return void toast(error.message, { id: 'refusal' });
        throw error;
      }
      const made = keepSystem(ws, picked, `System ${systems.length + 1}`);
      perform(ws, `reference system “${made.name}”`, ws.preference, { systems: [...systems, made] });
      ws.measure.setState({ toldIn: made.id });
    },
  },
];

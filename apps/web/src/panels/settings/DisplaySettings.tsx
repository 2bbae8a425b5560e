import { useStore } from 'zustand';
import { Choice } from '../../ui/Choice.tsx';
import { useWorkspace } from '../use-workspace.ts';
import { changeSettings } from '../../workspace/keeping/change-settings.ts';

export function DisplaySettings() {
  const ws = useWorkspace();
  const { theme, smoothEdges, probe } = useStore(ws.profile);
  return (
    <div className="max-w-md space-y-4">
      <div>
        <p className="mb-1 font-medium">Colours</p>
        <Choice
          label="Colours"
          value={theme}
          options={[
            ['chart', 'Day'],
            ['abyss', 'Night'],
          ]}
          onChange={(t) => changeSettings(ws, { theme: t })}
        />
      </div>
      <div>
        <p className="mb-1 font-medium">Figure of what is under the cursor</p>
        <Choice
          label="Figure of what is under the cursor"
          value={probe}
          options={[
            ['line', 'In the strip below'],
            ['cursor', 'Beside the cursor'],
            ['off', 'Not told'],
          ]}
          onChange={(p) => changeSettings(ws, { probe: p })}
        />
      </div>
      <label className="flex items-start gap-2">
        <input
          type="checkbox"
          className="mt-1 accent-(--blue)"
          checked={smoothEdges}
          onChange={(e) => changeSettings(ws, { smoothEdges: e.target.checked })}
        />
        <span>
          Antialiasing of the picture
          <br />
          <span className="text-soft">
            Costs two to five times the drawing time; switch it off on a weak machine. Takes effect when a
            model is opened.
          </span>
        </span>
      </label>
    </div>
  );
}

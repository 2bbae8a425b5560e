/** @jest-environment jsdom */
import { componentName, ledgerEntry } from '@bathyscope/contracts/records';
import { NO_SECTION } from '@bathyscope/core/section';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { cleanup, fireEvent, render, screen, waitFor, within } from '@testing-library/react';
import type { ComponentType, ReactNode } from 'react';
import { MemoryRouter } from 'react-router';
import { cylinderPart } from '../../../../packages/core/src/testing/round-parts.ts';
import { CutInPlace } from '../testing/cut-in-place.ts';
import { MassInPlace } from '../testing/mass-in-place.ts';
import { openedFrame } from '../testing/opened-models.ts';
import { added, changeRecords, given } from '../workspace/keeping/records.ts';
import { referenceTo } from '../workspace/measuring/references.ts';
import { giveMaterial } from '../workspace/mass/given-materials.ts';
import type { Workspace } from '../workspace/workspace.ts';
import { CaptionHelp } from './frame/CaptionHelp.tsx';
import { Readout } from './frame/Readout.tsx';
import { ViewStrip } from './frame/ViewStrip.tsx';
import { MassPanel } from './mass/MassPanel.tsx';
import { MeasurePanel } from './measure/MeasurePanel.tsx';
import { PartsPanel } from './parts/PartsPanel.tsx';
import { SectionPanel } from './section/SectionPanel.tsx';
import { StylePanel } from './style/StylePanel.tsx';
import { ProfileContext } from './use-profile.ts';
import { WorkspaceContext } from './use-workspace.ts';
import { ViewsPanel } from './views/ViewsPanel.tsx';

jest.mock('../workers/start-section-worker.ts', () => ({ startSectionWorker: () => new CutInPlace() }));
jest.mock('../workers/start-mass-worker.ts', () => ({ startMassWorker: () => new MassInPlace() }));

// It is drawn, and says nothing that its table does not.
jest.mock('./mass/MassChart.tsx', () => ({ __esModule: true, default: () => null }));

/* What panels say, without a browser. */

function opened(): Workspace {
  const ws = openedFrame(cylinderPart(8, 12));
  ws.profile.getState().change({ partColumns: ['quantity', 'material', 'mass', 'size'] });
  giveMaterial(ws, [1], 'steel');
  return ws;
}

function show(ws: Workspace, node: ReactNode): HTMLElement {
  return render(
    <QueryClientProvider client={new QueryClient()}>
      <ProfileContext value={ws.profile}>
        <WorkspaceContext value={ws}>
          <MemoryRouter>{node}</MemoryRouter>
        </WorkspaceContext>
      </ProfileContext>
    </QueryClientProvider>,
  ).container;
}

/** What is read of it: its text, what stands in its fields, and what is said of them. */
const said = (element: HTMLElement): string[] => [
  element.textContent ?? '',
  ...[...element.querySelectorAll<HTMLInputElement>('input, select, textarea')].map(
    (field) =>
      `${field.getAttribute('aria-label') ?? ''} ${field.value} ${field.checked ?? ''} ${field.min ?? ''} ${field.max ?? ''}`,
  ),
  ...[...element.querySelectorAll('[aria-pressed], [aria-label], [title]')].map((e) =>
    ['aria-label', 'aria-pressed', 'title'].map((name) => e.getAttribute(name)).join(' '),
  ),
];

/** ms */
const [A_WHILE, LONGEST] = [25, 20_000];
const settle = () => new Promise((done) => setTimeout(done, A_WHILE));
// What comes by and by is waited for, instead of being said to come.
beforeEach(() => void Object.assign(globalThis, { IS_REACT_ACT_ENVIRONMENT: false }));

const Caption = () => {
  const [pane] = opened().camera.getState().panes;
  return <CaptionHelp pane={pane} />;
};
const PANELS: Record<string, ComponentType> = {
  Mass: MassPanel,
  Measure: MeasurePanel,
  Parts: PartsPanel,
  Section: SectionPanel,
  Style: StylePanel,
  Views: ViewsPanel,
  Readout,
  Caption,
  'View strip': ViewStrip,
};

const plane = {
  id: 'p',
  name: 'P',
  origin: [0, 0, 0],
  normal: [0, 0, 1],
  offset: 12,
  flipped: false,
  on: true,
} as const;
const left = { kind: 'face', component: 'a/left', index: 5 } as const;
const CHANGES: Record<string, (ws: Workspace) => void> = {
  inches: (ws) => ws.profile.getState().change({ unit: 'in' }),
  'a name': (ws) =>
    changeRecords(ws, 'name', [given(ws, componentName, { component: 'a/left', name: 'Cheek' })]),
  'a material': (ws) => giveMaterial(ws, [0, 2], 'copper'),
  'a material of one’s own that is changed': (ws) => {
    const own = { id: 'own', name: 'Own', family: 'Steel', spread: 50, source: 'a test' } as const;
    ws.library.setState({ own: [{ ...own, density: 7000 }] });
    giveMaterial(ws, [0], 'own');
    ws.library.setState({ own: [{ ...own, density: 8000, name: 'Other' }] });
  },
  'another up axis': (ws) => ws.camera.getState().setUpAxis('y'),
  'something hidden': (ws) =>
    ws.visibility.getState().set({ 'a/left': { visible: false, ghosted: false, keptWhole: false } as never }),
  'a plane': (ws) => ws.section.setState({ ...NO_SECTION, planes: [{ ...plane }] as never }),
  'a plane elsewhere': (ws) => ws.section.setState({ planes: [{ ...plane, offset: 3 }] as never }),
  picks: (ws) => ws.selection.getState().pick([left]),
  'two picks': (ws) => ws.selection.getState().pick([left, { kind: 'face', component: 'a/right', index: 5 }]),
  'figures in the view’s axes': (ws) => ws.measure.setState({ displaySystem: 'view' }),
  'a key of one’s own': (ws) => ws.profile.getState().change({ ownKeys: { fit: 'X', section: 'Y' } }),
  'the layout of the keyboard': (ws) => ws.keyboard.setState({ caps: new Map([['KeyQ', 'Ä']]) }),
  'a set': (ws) => ws.mass.setState({ set: 'picked' }),
  'a kept figure': (ws) =>
    changeRecords(ws, 'keep', [
      added(ws, ledgerEntry, {
        name: 'Top',
        of: [referenceTo(ws, left)],
        figure: 'Area',
        was: 1,
        revision: 1,
      }),
    ]),
  'the model without a part': (ws) => {
    const { parts } = ws.model.getState();
    ws.model.setState({ parts: new Map([...parts].filter(([part]) => part !== 1)) });
  },
};

afterEach(() => cleanup());

for (const [name, Panel] of Object.entries(PANELS))
  test(`${name} says after any change what it says when it is opened after it`, async () => {
    const ws = opened();
    const standing = show(ws, <Panel />);
    for (const [change, make] of Object.entries(CHANGES)) {
      make(ws);
      const fresh = show(ws, <Panel />);
      await settle();
      await waitFor(() => expect([change, said(standing)]).toEqual([change, said(fresh)]), {
        timeout: LONGEST,
      });
      fresh.remove();
    }
    ws.players.cutting!.stop();
  });

test('a mass is given up, taken and undone by the panel’s own buttons', async () => {
  const ws = opened();
  const panel = within(show(ws, <MassPanel />));
  expect(panel.getByText('One component has no material')).toBeTruthy();
  fireEvent.click(panel.getByRole('button', { name: 'Assume…' }));
  const field = panel.getByLabelText('Density to assume');
  fireEvent.change(field, { target: { value: 'much' } });
  fireEvent.click(panel.getByRole('button', { name: 'Take' }));
  expect(ws.mass.getState().assumed).toBeNull();
  fireEvent.change(field, { target: { value: '2 g/cm³' } });
  fireEvent.click(panel.getByRole('button', { name: 'Take' }));
  expect(ws.mass.getState().assumed).toBe(2000);
  fireEvent.click(screen.getByRole('button', { name: 'Take back' }));
  expect(ws.mass.getState().assumed).toBeNull();
});

import { useEffect, useMemo } from 'react';
import { ErrorBoundary } from 'react-error-boundary';
import { Link, useNavigate, useParams } from 'react-router';
import { useStore } from 'zustand';
import { listenToKeys } from '../commands/keys.ts';
import { AskDialog } from './frame/AskDialog.tsx';
import { BinDialog } from './frame/BinDialog.tsx';
import { BearingGlobe } from './frame/BearingGlobe.tsx';
import { ContextMenu } from './frame/ContextMenu.tsx';
import { Helm } from './frame/Helm.tsx';
import { HelpDialog } from './frame/HelpDialog.tsx';
import { Panel } from './frame/Panel.tsx';
import { Rail } from './frame/Rail.tsx';
import { LookedUpCard, OldPlace } from './frame/LookedUpCard.tsx';
import { PickList } from './frame/PickList.tsx';
import { Readout } from './frame/Readout.tsx';
import { SceneCanvas } from './frame/SceneCanvas.tsx';
import { MassMarks } from './mass/MassMarks.tsx';
import { SystemMarks } from './measure/SystemMarks.tsx';
import { Dimensions } from './measure/Dimensions.tsx';
import { SceneOverlays } from './frame/SceneOverlays.tsx';
import { TopLine } from './frame/TopLine.tsx';
import { ViewStrip } from './frame/ViewStrip.tsx';
import { FlatView } from './section/FlatView.tsx';
import { WholeDialog } from './section/KeptWhole.tsx';
import { SectionHandle } from './section/SectionHandle.tsx';
import { PictureDialog } from './pictures/PictureDialog.tsx';
import { SettingsDialog } from './settings/SettingsDialog.tsx';
import { Fallback } from '../ui/Fallback.tsx';
import { useFold } from './frame/use-fold.ts';
import { useArrivals } from './use-arrivals.ts';
import { useEvents } from './use-events.ts';
import { toast } from '../ui/notices.ts';
import { useProfile } from './use-profile.ts';
import { createWorkspace } from '../workspace/create-workspace.ts';
import { openModel } from '../workspace/open-model.ts';
import { serverSource } from '../workspace/source/server-source.ts';
import { useWorkspace, WorkspaceContext } from './use-workspace.ts';

/** The page of one model: its workspace is made here, and ends with the page. */
export function WorkspacePage() {
  const { id = '', link, revision } = useParams();
  const profile = useProfile();
  const events = useEvents();
  const ws = useMemo(
    () =>
      createWorkspace(
        serverSource(id, events, { link, ...(revision && { revision: Number(revision) }) }),
        profile,
        toast,
      ),
    [id, link, revision, profile, events],
  );
  useEffect(() => openModel(ws), [ws]);
  return (
    <WorkspaceContext value={ws}>
      <ErrorBoundary FallbackComponent={Fallback}>
        <WorkspaceView key={`${id} ${revision ?? ''} ${link ?? ''}`} />
      </ErrorBoundary>
    </WorkspaceContext>
  );
}

function WorkspaceView() {
  const ws = useWorkspace();
  const navigate = useNavigate();
  useArrivals();
  useFold(ws);
  useEffect(() => listenToKeys(ws), [ws]);
  useEffect(() => ws.dialog.setState({ goTo: (address) => void navigate(address) }), [ws, navigate]);
  const status = useStore(ws.model, (s) => s.status);
  const name = useStore(ws.model, (s) => s.detail?.name);
  const task = useStore(ws.profile, (s) => s.task);
  const panelFolded = useStore(ws.mode, (s) => s.panelFolded);
  useEffect(() => {
    document.title = name ? `${name} · Bathyscope` : 'Bathyscope';
  }, [name]);

  return (
    <div className="flex h-full flex-col overflow-hidden">
      <TopLine />
      <div className="relative flex min-h-0 flex-1">
        <Rail />
        {task && !panelFolded && <Panel />}
        <main className="relative flex min-w-0 flex-1 bg-linear-to-b from-(--shoal-top) to-(--shoal-bottom)">
          <div className="relative min-w-0 flex-1">
            {status === 'ready' ? (
              <ErrorBoundary FallbackComponent={Fallback}>
                <SceneCanvas />
                <SceneOverlays />
                <Dimensions />
                <MassMarks />
                <SystemMarks />
                <OldPlace />
                <LookedUpCard />
                <SectionHandle />
                <BearingGlobe />
                <Helm />
                <PickList />
              </ErrorBoundary>
            ) : (
              <SceneStatus />
            )}
          </div>
          {status === 'ready' && (
            <ErrorBoundary FallbackComponent={Fallback}>
              <FlatView />
            </ErrorBoundary>
          )}
          <ErrorBoundary FallbackComponent={Fallback}>
            <Readout />
          </ErrorBoundary>
          <ContextMenu />
        </main>
      </div>
      <ViewStrip />
      <HelpDialog />
      <SettingsDialog />
      <AskDialog />
      <PictureDialog />
      <WholeDialog />
      <BinDialog />
    </div>
  );
}

function SceneStatus() {
  const ws = useWorkspace();
  const { status, progress, error } = useStore(ws.model);
  if (status === 'failed')
    return (
      <div role="alert" className="grid size-full place-items-center p-8 text-center">
        <div>
          <p className="font-semibold">{error}</p>
          <div className="mt-3 flex justify-center gap-2">
            <button
              type="button"
              onClick={() => location.reload()}
              className="rounded border border-border bg-panel px-4 py-2 font-medium"
            >
              Try again
            </button>
            <Link to="/" className="rounded border border-border bg-panel px-4 py-2 font-medium">
              Back to the shelf
            </Link>
          </div>
        </div>
      </div>
    );
  return (
    <div className="grid size-full place-items-center">
      <p role="status" className="text-soft">
        Loading the model … <span className="figures">{Math.round(progress * 100)} %</span>
      </p>
    </div>
  );
}

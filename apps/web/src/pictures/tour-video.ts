import { savedViews } from '../commands/keep/saved-views.ts';
import { startTour, stopTour } from '../commands/keep/tour.ts';
import { themeGradient } from './make-picture.ts';
import type { Workspace } from '../workspace/workspace.ts';

const FRAMES_PER_SECOND = 30;
/** ms between two looks for the first encoded picture, and after which it is given up. */
const WAIT = 100;
const LONGEST_WAIT = 10_000;

/**
 * Plays the saved views once and records them as WebM. Stopping the tour ends the recording, which is kept.
 */
export async function recordTour(ws: Workspace): Promise<Blob> {
  const { scene } = ws.scene.getState();
  const screen = document.querySelector<HTMLCanvasElement>('[data-testid=scene]');
  const views = savedViews(ws);
  if (!scene || !screen) throw new Error('There is no model to record.');
  if (views.length < 2) throw new Error('A tour needs at least two saved views.');
  const canvas = Object.assign(document.createElement('canvas'), {
    width: screen.width,
    height: screen.height,
  });
  const context = canvas.getContext('2d')!;
  // The scene is copied right after each of its frames, on the water it has on the page.
  const copy = () => {
    context.fillStyle = themeGradient(context, canvas.height);
    context.fillRect(0, 0, canvas.width, canvas.height);
    context.drawImage(screen, 0, 0);
  };
  const type = ['video/webm;codecs=vp9', 'video/webm;codecs=vp8', 'video/webm'].find((t) =>
    MediaRecorder.isTypeSupported(t),
  );
  if (!type) throw new Error('This browser cannot record WebM video.');
  const recorder = new MediaRecorder(canvas.captureStream(FRAMES_PER_SECOND), {
    mimeType: type,
    videoBitsPerSecond: 8_000_000,
  });
  const pieces: Blob[] = [];
  recorder.ondataavailable = (e) => e.data.size && pieces.push(e.data);
  const ended = new Promise<void>((resolve) => (recorder.onstop = () => resolve()));
  scene.afterFrame = copy;
  recorder.start(500);
  startTour(ws);
  scene.invalidate();
  // A still view draws no frames; the stream wants some.
  const beat = setInterval(() => scene.invalidate(), 1000 / 10);
  await new Promise<void>((resolve) => {
    const finish = setTimeout(resolve, views.length * ws.profile.getState().tourPace * 1000);
    const off = ws.tour.subscribe(({ at }) => {
      if (at !== null) return;
      clearTimeout(finish);
      off();
      resolve();
    });
  });
  stopTour(ws);
  // On a busy machine a short tour may be over before its first picture is encoded.
  for (let waited = 0; !pieces.length && waited < LONGEST_WAIT; waited += WAIT) {
    await new Promise((resolve) => setTimeout(resolve, WAIT));
    recorder.requestData();
  }
  clearInterval(beat);
  scene.afterFrame = null;
  recorder.stop();
  await ended;
  if (!pieces.length)
    throw new Error(
      'The browser recorded no picture of the tour. Try it again with more seconds at each view.',
    );
  return new Blob(pieces, { type: 'video/webm' });
}

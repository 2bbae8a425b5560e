/** Gives a file to the browser to be saved. */
export function download(content: Blob | string, name: string, type = 'text/plain'): void {
  const blob = typeof content === 'string' ? new Blob([content], { type }) : content;
  const url = URL.createObjectURL(blob);
  const link = Object.assign(document.createElement('a'), { href: url, download: name });
  link.click();
  setTimeout(() => URL.revokeObjectURL(url), 10_000);
}

/** Prints a picture alone: so many mm wide, or as large as the paper allows. */
export async function printPicture(blob: Blob, mmWide?: number): Promise<void> {
  const url = URL.createObjectURL(blob);
  const frame = document.createElement('iframe');
  Object.assign(frame.style, { position: 'fixed', width: '0', height: '0', border: '0' });
  frame.title = 'Print';
  document.body.append(frame);
  const image = frame.contentDocument!.createElement('img');
  image.src = url;
  image.style.cssText = mmWide
    ? `width:${mmWide}mm;display:block`
    : 'max-width:100%;max-height:100vh;display:block;margin:auto';
  frame.contentDocument!.body.append(image);
  await image.decode();
  frame.contentWindow!.print();
  setTimeout(() => {
    frame.remove();
    URL.revokeObjectURL(url);
  }, 60_000);
}

/** A name of the model that any file system takes. */
export const fileName = (model: string, what: string, ending: string): string =>
  `${`${model} ${what}`.replace(NO_FILE_NAME, '_').trim()}.${ending}`;

// eslint-disable-next-line no-control-regex
const NO_FILE_NAME = /[\\/:*?"<>|\u0000-\u001f]/g;

import copy from 'copy-to-clipboard';

/**
 * Puts text on the clipboard, also on a page over plain http, which has no clipboard of its own. Where the
 * browser allows neither way it is shown to be copied by hand.
 * @returns whether it is on the clipboard
 */
export async function copyText(text: string): Promise<boolean> {
  // The lib's types promise it everywhere; only https and this computer have it.
  const clipboard = navigator.clipboard as Clipboard | undefined;
  return clipboard
    ? clipboard.writeText(text).then(
        () => true,
        () => copy(text),
      )
    : copy(text);
}

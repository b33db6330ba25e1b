import { create } from 'zustand';

/** A file on disk that the browser lets us look at again (File System Access). */
export interface FollowedFile {
  getFile(): Promise<File>;
}

interface Followed {
  handles: FollowedFile[];
  /** when each was last changed, as it was last read */
  seen: number[];
  changed: boolean;
}

/** Assets whose file on disk is followed, by the id of their object; for as long as the page is open. */
export const useFollowing = create<{ files: Record<string, Followed> }>(() => ({ files: {} }));

/** How often files are looked at, ms. */
const EVERY = 1500;
let timer: ReturnType<typeof setInterval> | undefined;

/** Whether this browser can follow files. */
export const canFollow = (): boolean => 'showOpenFilePicker' in window;

/** Asks for files and follows them for an asset. @returns those chosen, `undefined` where none were */
export async function followFiles(id: string): Promise<File[] | undefined> {
  const pick = (window as unknown as { showOpenFilePicker(options: object): Promise<FollowedFile[]> }).showOpenFilePicker;
  const handles = await pick({ multiple: true }).catch(() => undefined);
  if (!handles || handles.length === 0) return undefined;
  const files = await Promise.all(handles.map((h) => h.getFile()));
  useFollowing.setState(({ files: all }) => ({ files: { ...all, [id]: { handles, seen: files.map((f) => f.lastModified), changed: false } } }));
  timer ??= setInterval(() => void lookAgain(), EVERY);
  return files;
}

/** The files of an asset as they are now; they count as seen. */
export async function followedFiles(id: string): Promise<File[]> {
  const followed = useFollowing.getState().files[id];
  if (!followed) return [];
  const files = await Promise.all(followed.handles.map((h) => h.getFile()));
  useFollowing.setState(({ files: all }) => ({ files: { ...all, [id]: { ...followed, seen: files.map((f) => f.lastModified), changed: false } } }));
  return files;
}

/** Follows no more. */
export function unfollow(id: string): void {
  useFollowing.setState(({ files }) => ({ files: Object.fromEntries(Object.entries(files).filter(([other]) => other !== id)) }));
}

async function lookAgain(): Promise<void> {
  const { files } = useFollowing.getState();
  if (Object.keys(files).length === 0) {
    clearInterval(timer);
    timer = undefined;
    return;
  }
  for (const [id, { handles, seen, changed }] of Object.entries(files)) {
    if (changed) continue;
    // One that is being written cannot be read just now: the next look finds it.
    const now = await Promise.all(
      handles.map((h) =>
        h.getFile().then(
          (f) => f.lastModified,
          () => undefined,
        ),
      ),
    );
    if (now.some((t, i) => t !== undefined && t !== seen[i]))
      useFollowing.setState(({ files: all }) => (all[id] ? { files: { ...all, [id]: { ...all[id], changed: true } } } : { files: all }));
  }
}

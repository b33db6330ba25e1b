import { proxy } from 'comlink';

/**
 * How far a worker is, told to the page until `end`: what is still on its way by then would show work that is done as
 * under way, for good (messages of two channels keep no order).
 */
export function progress(tell: (share: number) => unknown): { onProgress: (share: number) => void; end(): void } {
  let ended = false;
  return {
    onProgress: proxy((share: number) => {
      if (!ended) tell(share);
    }),
    end: () => {
      ended = true;
    },
  };
}

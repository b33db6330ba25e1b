import { create } from 'zustand';
import { habitatIn, readKept, type KeptHabitat } from '@rammer/core/growth/keptHabitat';

const STORE = 'rammer-habitats';
/** So many are kept; the oldest go first. */
const MOST = 24;

/** Habitats that were kept for other levels, of this browser; the one kept last stands last. */
export const useOwnHabitats = create<{ list: readonly KeptHabitat[] }>(() => ({ list: stored() }));

function stored(): KeptHabitat[] {
  try {
    const list: unknown = JSON.parse(localStorage.getItem(STORE) ?? '[]');
    if (!Array.isArray(list)) return [];
    return list.map(readKept).filter((one) => one !== undefined);
  } catch {
    return [];
  }
}

function put(list: readonly KeptHabitat[]): void {
  useOwnHabitats.setState({ list });
  try {
    localStorage.setItem(STORE, JSON.stringify(list));
  } catch {
    // A browser that keeps nothing keeps it for this page.
  }
}

/** Keeps a habitat; one of the same name gives way to it. */
export const keepOwn = (one: KeptHabitat): void =>
  put([...useOwnHabitats.getState().list.filter((o) => habitatIn(o).name !== habitatIn(one).name), one].slice(-MOST));

export const forgetOwn = (name: string): void => put(useOwnHabitats.getState().list.filter((o) => habitatIn(o).name !== name));

import { create } from 'zustand';

const STORE = 'rammer-favourites';

/** What is looked for in the library, and whether its wide view is open. */
interface LibraryView {
  wide: boolean;
  query: string;
  /** what each facet is held to; none of a facet is all of it */
  facets: Record<string, string[]>;
  /** hash of the asset the wide view tells of */
  chosen?: string;
  /** hashes, of this browser */
  favourites: string[];
}

export const useLibrary = create<LibraryView>(() => ({ wide: false, query: '', facets: {}, favourites: kept() }));

function kept(): string[] {
  try {
    const list: unknown = JSON.parse(localStorage.getItem(STORE) ?? '[]');
    return Array.isArray(list) ? list.filter((h) => typeof h === 'string') : [];
  } catch {
    return [];
  }
}

/** Makes an asset a favourite of this browser, or no more. */
export function favour(hash: string): void {
  const { favourites } = useLibrary.getState();
  const next = favourites.includes(hash) ? favourites.filter((h) => h !== hash) : [...favourites, hash];
  useLibrary.setState({ favourites: next });
  try {
    localStorage.setItem(STORE, JSON.stringify(next));
  } catch {
    // A browser that keeps nothing keeps it for this page.
  }
}

/** Holds a facet to a value, or no more. */
export const toggleFacet = (facet: string, value: string): void =>
  useLibrary.setState(({ facets }) => {
    const of = facets[facet] ?? [];
    return { facets: { ...facets, [facet]: of.includes(value) ? of.filter((v) => v !== value) : [...of, value] } };
  });

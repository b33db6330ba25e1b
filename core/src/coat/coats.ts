import { ofKind, type Level } from '../level/level';
import { MOST_COATS, type Coat } from '../level/kinds/coat';

/** All coats of a level, lowest first. */
export const allCoats = (level: Pick<Level, 'objects'>): Coat[] => ofKind(level, 'coat').sort((a, b) => a.order - b.order || (a.id < b.id ? -1 : 1));

/** The coats of a level that are used: the first four. */
export const coatsOf = (level: Pick<Level, 'objects'>): Coat[] => allCoats(level).slice(0, MOST_COATS);

/** Whether a coat lies on an asset by its rule. */
export const liesOn = (coat: Pick<Coat, 'on' | 'share' | 'assets'>, asset: string): boolean =>
  coat.on && coat.share > 0 && (coat.assets === undefined || coat.assets.includes(asset));

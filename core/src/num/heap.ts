/**
 * A binary heap of numbered items, the least price first; equal prices by number, so that what comes out
 * never depends on the order of pushes. An item may be in it more than once, at different prices.
 */
export class Heap {
  private readonly items: number[] = [];
  private readonly prices: number[] = [];

  push(item: number, price: number): void {
    const { items, prices } = this;
    let i = items.push(item) - 1;
    prices.push(price);
    while (i > 0) {
      const up = (i - 1) >> 1;
      if (!before(price, item, prices[up], items[up])) break;
      items[i] = items[up];
      prices[i] = prices[up];
      i = up;
    }
    items[i] = item;
    prices[i] = price;
  }

  /** The least, taken out; `undefined` where nothing is left. */
  pop(): number | undefined {
    const { items, prices } = this;
    if (items.length === 0) return undefined;
    const top = items[0];
    const item = items.pop()!;
    const price = prices.pop()!;
    if (items.length === 0) return top;
    let i = 0;
    for (;;) {
      let child = 2 * i + 1;
      if (child >= items.length) break;
      if (child + 1 < items.length && before(prices[child + 1], items[child + 1], prices[child], items[child])) child++;
      if (before(price, item, prices[child], items[child])) break;
      items[i] = items[child];
      prices[i] = prices[child];
      i = child;
    }
    items[i] = item;
    prices[i] = price;
    return top;
  }
}

const before = (price: number, item: number, otherPrice: number, other: number): boolean => price < otherPrice || (price === otherPrice && item < other);

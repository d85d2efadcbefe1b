import type { PartId } from '@/core/units';
import { KeyTable } from '@/core/package';

/**
 * Groups parts that are connected by any relation (union–find with path halving): what is looked up together is stored together. Holds fingerprints,
 * not ids; a part without relations is a component of its own and takes no memory.
 */
export class Components {
  private readonly parts = new KeyTable();
  private parent: number[] = [];

  join(a: string, b: string): void {
    const [left, right] = [this.root(this.ordinal(a)), this.root(this.ordinal(b))];
    if (left !== right) this.parent[Math.max(left, right)] = Math.min(left, right);
  }

  /** The same text for all parts of a component. */
  of(partId: PartId): string {
    const index = this.parts.find(partId);
    return index < 0 ? partId : `#${this.root(index)}`;
  }

  private ordinal(id: string): number {
    const known = this.parts.find(id);
    if (known >= 0) return known;
    this.parent.push(this.parent.length);
    return this.parts.add(id);
  }

  private root(from: number): number {
    let index = from;
    for (;;) {
      const up = this.parent[index] ?? index;
      if (up === index) return index;
      const above = this.parent[up] ?? up;
      this.parent[index] = above;
      index = above;
    }
  }
}

/** The part that the tests use of the data package standard's own library, which brings no types. */
declare module 'datapackage' {
  export class Package {
    static load(descriptor: string, options?: { strict?: boolean }): Promise<Package>;
    readonly valid: boolean;
    readonly errors: readonly Error[];
    readonly resources: readonly Resource[];
  }
  export class Resource {
    readonly name: string;
    read(options?: { keyed?: boolean; relations?: boolean }): Promise<Record<string, unknown>[]>;
  }
}

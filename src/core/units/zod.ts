import { config } from 'zod';

// Zod probes `new Function` unless told not to; the content security policy forbids that in every realm.
config({ jitless: true });

// Taken as `import * as z`: only so does a page carry just the checks that it uses, and not sixty languages.
export * from 'zod';

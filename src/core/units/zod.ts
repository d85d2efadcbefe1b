import { z } from 'zod';

// Zod probes `new Function` unless told not to; the content security policy forbids that in every realm.
z.config({ jitless: true });

export { z };

/**
 * Makes the bulk of the demo shop (models, parts, fits, references, offers, tickets) from the hand-written knowledge beside it.
 * Seeded: the same run gives the same files. All names and numbers are invented. Run: npm run demo:make
 */
import { writeDemoCatalogue } from './demo/catalogue';
import { writeDemoTickets } from './demo/tickets';

const catalogue = writeDemoCatalogue();
writeDemoTickets(catalogue);

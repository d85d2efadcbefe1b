import { Button, notice } from '@/ui';
import { missingTypeWords } from '@/words';
import { saveHandOverPage, saveSafetyRecord } from './proofPdf';
import type { ProofProps } from './ProofProps';

/** What goes with the machine on paper. */
export function Pages(props: ProofProps) {
  const { proofs = [] } = props.bench ?? {};
  if (proofs.some(({ passed }) => passed !== true)) return null;
  const save = (page: Promise<string[]>) =>
    void page.then((missing) => {
      if (missing.length) notice(missingTypeWords(missing));
    });
  return (
    <div className="flex flex-wrap gap-2.5">
      <Button onClick={() => save(saveHandOverPage(props))}>Page for the customer (PDF)</Button>
      <Button onClick={() => save(saveSafetyRecord(props))}>Electrical safety record (PDF)</Button>
    </div>
  );
}

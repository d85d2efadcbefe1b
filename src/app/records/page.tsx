import { RecordsPage } from '@/sheet/records/RecordsPage';

export default function Page() {
  return <RecordsPage />;
}

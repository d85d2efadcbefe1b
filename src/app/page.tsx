import { FloorPage } from '@/floor/FloorPage';

export default function Page() {
  return <FloorPage />;
}

import { ShelfPage } from '@/sheet/shelf/ShelfPage';

export default function Page() {
  return <ShelfPage />;
}

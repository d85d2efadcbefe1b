import { ShopPage } from '@/sheet/shop/ShopPage';

export default function Page() {
  return <ShopPage />;
}

import { OrdersPage } from '@/sheet/orders/OrdersPage';

export default function Page() {
  return <OrdersPage />;
}

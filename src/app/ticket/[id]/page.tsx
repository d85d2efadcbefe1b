import { TicketSheet } from '@/sheet/TicketSheet';

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  const { id } = await params;
  return <TicketSheet ticketId={id} key={id} />;
}

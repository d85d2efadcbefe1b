import { notFound } from 'next/navigation';
import { idSchema, type TicketId } from '@/core/units';
import { TicketSheet } from '@/sheet/TicketSheet';

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  const id = idSchema<TicketId>().safeParse((await params).id);
  if (!id.success) notFound();
  return <TicketSheet ticketId={id.data} key={id.data} />;
}

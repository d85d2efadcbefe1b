import { KnowledgePage } from '@/sheet/knowledge/KnowledgePage';

export default async function Page({ searchParams }: { searchParams: Promise<{ cause?: string }> }) {
  const { cause } = await searchParams;
  return <KnowledgePage initial={cause ?? ''} key={cause ?? ''} />;
}

import { CataloguePage } from '@/sheet/catalogue/CataloguePage';

export default async function Page({ searchParams }: { searchParams: Promise<{ q?: string }> }) {
  const { q } = await searchParams;
  return <CataloguePage initial={q ?? ''} key={q ?? ''} />;
}

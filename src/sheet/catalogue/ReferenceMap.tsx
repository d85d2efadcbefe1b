'use client';
import type { PartId } from '@/core/units';
import { graphlib, layout } from '@dagrejs/dagre';
import type { Part, Relation } from '@/core/catalogue';
import type { CrossReference } from '@/core/fit';
import { cx, Mark, useNewest } from '@/ui';
import { crossProblemWords, plural, RELATION_WORDS } from '@/words';
import { searchWorker } from '@/workers';
import { NotLookedUp } from './NotLookedUp';
import { WhoseWord } from './WhoseWord';

const BOX = { width: 168, height: 58 };

type Placed = {
  nodes: { part: Part; x: number; y: number }[];
  edges: { relation: Relation; points: { x: number; y: number }[] }[];
  width: number;
  height: number;
};

/** Lays the numbers out from old to new, left to right. */
function place(reference: CrossReference): Placed {
  const graph = new graphlib.Graph({ multigraph: true });
  // A date on an edge needs room.
  const dated = reference.relations.some(({ builtFrom, builtTo }) => builtFrom ?? builtTo);
  graph.setGraph({ rankdir: 'LR', nodesep: 18, ranksep: dated ? 150 : 74, marginx: 6, marginy: 6 });
  graph.setDefaultEdgeLabel(() => ({}));
  for (const part of reference.parts) graph.setNode(part.id, { ...BOX });
  for (const relation of reference.relations)
    if (graph.hasNode(relation.fromPartId) && graph.hasNode(relation.toPartId))
      graph.setEdge(relation.fromPartId, relation.toPartId, {}, relation.id);
  layout(graph);
  const size = graph.graph();
  return {
    nodes: reference.parts.map((part) => ({
      part,
      x: Number(graph.node(part.id).x),
      y: Number(graph.node(part.id).y),
    })),
    edges: reference.relations.flatMap((relation) => {
      const edge = graph.edge(relation.fromPartId, relation.toPartId, relation.id);
      return edge?.points ? [{ relation, points: edge.points }] : [];
    }),
    width: Number(size.width ?? 0),
    height: Number(size.height ?? 0),
  };
}

/** How a number is connected with others, and what is sold in its place today. */
export function ReferenceMap({ partId, onPick }: { partId: PartId; onPick: (partId: PartId) => void }) {
  const { answer: found, of, failed } = useNewest(partId, () => searchWorker.get().reference(partId));
  if (of === partId && failed) return <NotLookedUp why={failed} />;
  if (of === partId && !found) return <p className="text-soft">This number is not in the catalogue any more.</p>;
  if (of !== partId || !found) return <p className="text-soft">Looking the number up …</p>;
  const { reference, offers, said } = found;
  const own = reference.parts.find((part) => part.id === partId);
  const sold = new Set(reference.soldToday?.parts.map((entry) => entry.partId) ?? []);
  const number = (id: string) => reference.parts.find((part) => part.id === id)?.partNumber ?? id;
  const map = place(reference);
  return (
    <section
      aria-label={`Cross-reference of ${own?.partNumber ?? ''}`}
      className="mt-3 border-t-[3px] border-ink pt-2.5"
    >
      <h2 className="text-lg font-semibold">
        <span className="font-mono">{own?.partNumber}</span> {own?.description}
      </h2>
      <p className="text-[15px]">
        {reference.soldToday === null ? (
          <Mark tone="stop">Not sold any more, and nothing replaces it</Mark>
        ) : sold.has(partId) ? (
          <Mark tone="sound">This is the number sold today</Mark>
        ) : (
          <Mark tone="doubt">
            Sold today as{' '}
            {reference.soldToday.parts
              .map((entry) => `${entry.quantity > 1 ? `${entry.quantity} × ` : ''}${number(entry.partId)}`)
              .join(' and ')}
            {reference.soldToday.via
              .flatMap(({ builtFrom, builtTo }) => [
                ...(builtFrom ? [`, for machines built from ${builtFrom}; older ones keep their number`] : []),
                ...(builtTo ? [`, for machines built up to ${builtTo}`] : []),
              ])
              .join('')}
          </Mark>
        )}
      </p>
      <WhoseWord
        said={said.map(({ source, row }) => ({
          source,
          text: `${row.description}${row.status === 'discontinued' ? ', not made any more' : ''}`,
        }))}
      />
      {reference.problems.map((problem) => (
        <p key={JSON.stringify(problem)}>
          <Mark tone="doubt">{crossProblemWords(problem, number)}</Mark>
        </p>
      ))}
      <div className="mt-2 overflow-x-auto" tabIndex={0} role="region" aria-label="Map of connected numbers">
        <svg width={map.width} height={map.height} className="max-w-none">
          {map.edges.map(({ relation, points }) => {
            const middle = points[Math.floor(points.length / 2)];
            const end = points.at(-1);
            return (
              <g key={relation.id}>
                <path
                  d={points.map(({ x, y }, index) => `${index === 0 ? 'M' : 'L'}${x} ${y}`).join(' ')}
                  fill="none"
                  strokeWidth={relation.kind === 'superseded-by' ? 2.4 : 1.4}
                  strokeDasharray={relation.kind === 'superseded-by' ? undefined : '5 4'}
                  className="stroke-ink"
                />
                {end ? <circle cx={end.x} cy={end.y} r={3.5} className="fill-ink" /> : null}
                {middle ? (
                  <text x={middle.x} y={middle.y - 6} textAnchor="middle" className="fill-soft text-[12px]">
                    {RELATION_WORDS[relation.kind]}
                    {relation.builtFrom ? `, from ${relation.builtFrom.slice(0, 7)}` : ''}
                    {relation.builtTo ? `, to ${relation.builtTo.slice(0, 7)}` : ''}
                  </text>
                ) : null}
              </g>
            );
          })}
          {map.nodes.map(({ part, x, y }) => (
            <foreignObject
              key={part.id}
              x={x - BOX.width / 2}
              y={y - BOX.height / 2}
              width={BOX.width}
              height={BOX.height}
            >
              <button
                type="button"
                onClick={() => onPick(part.id)}
                aria-current={part.id === partId ? 'true' : undefined}
                className={cx(
                  'flex h-full w-full flex-col justify-center rounded-sm border-[1.5px] px-2 text-left leading-tight',
                  part.id === partId
                    ? 'border-mark bg-mark-wash'
                    : sold.has(part.id)
                      ? 'border-ink bg-sheet'
                      : 'border-line bg-ground',
                )}
              >
                <span className="truncate font-mono text-[15px] font-semibold">{part.partNumber}</span>
                <span className="truncate text-xs text-soft">
                  {part.status === 'discontinued' ? 'discontinued' : plural(offers[part.id] ?? 0, 'offer')} ·{' '}
                  {part.description}
                </span>
              </button>
            </foreignObject>
          ))}
        </svg>
      </div>
    </section>
  );
}

import { useEffect, useRef, useState } from 'react';
import type Konva from 'konva';
import { savePhoto, saving } from '@/store';
import { atBench, type Step } from '@/core/ticket';
import type { TicketId } from '@/core/units';
import { Button, Field, notice } from '@/ui';
import { notSavedWords } from '@/words';
import type { Ask } from '../shared/StationProps';

const TOOLS = { arrow: 'Arrow', circle: 'Circle', word: 'Word' } as const;
type Tool = keyof typeof TOOLS;

const COLOUR = '#d4281c';
const EDGE = '#ffffff';

type Props = {
  picture: Blob;
  photoId: string;
  ticketId: TicketId;
  step: Step;
  text: string;
  ask: Ask;
  onDone: () => void;
};

/** Draws an arrow, a circle or a word on a picture by finger; what is drawn becomes a picture of its own beside the first. */
export function DrawOn({ picture, photoId, ticketId, step, text, ask, onDone }: Props) {
  const place = useRef<HTMLDivElement>(null);
  const stage = useRef<Konva.Stage | null>(null);
  const [tool, setTool] = useState<Tool>('arrow');
  const [word, setWord] = useState('');
  const [drawn, setDrawn] = useState(0);
  const chosen = useRef({ tool, word });
  useEffect(() => {
    chosen.current = { tool, word };
  }, [tool, word]);

  useEffect(() => {
    const holder = place.current;
    if (!holder) return;
    let gone = false;
    void open(
      holder,
      picture,
      () => chosen.current,
      () => setDrawn((count) => count + 1),
    ).then((made) => {
      if (gone) made.destroy();
      else stage.current = made;
    });
    return () => {
      gone = true;
      stage.current?.destroy();
      stage.current = null;
    };
  }, [picture]);

  const keep = async () => {
    const blob = await stage.current?.toBlob({ pixelRatio: 2, mimeType: 'image/jpeg', quality: 0.85 });
    if (!(blob instanceof Blob)) return;
    const saved = await saving
      .keep(() => savePhoto(ticketId, blob, 'bench'))
      .catch((error: unknown) => {
        notice(notSavedWords(error));
        return null;
      });
    if (saved && (await ask(atBench({ type: 'photographed', photoId: saved, step, text: word || text })))) onDone();
  };
  const undo = () => {
    stage.current?.getLayers()[1]?.getChildren().at(-1)?.destroy();
    setDrawn((count) => Math.max(0, count - 1));
  };
  const drop = async () => {
    if (await ask(atBench({ type: 'photograph-dropped', photoId }))) onDone();
  };
  return (
    <div className="flex flex-col gap-2.5">
      <div ref={place} data-testid="draw-on" className="w-full touch-none bg-well" />
      <div role="group" aria-label="Draw" className="flex flex-wrap gap-2">
        {Object.entries(TOOLS).map(([name, title]) => (
          <Button
            key={name}
            aria-pressed={tool === name}
            tone={tool === name ? 'main' : 'plain'}
            onClick={() => setTool(name === 'arrow' || name === 'circle' ? name : 'word')}
          >
            {title}
          </Button>
        ))}
        <Button disabled={drawn === 0} onClick={undo}>
          Take the last away
        </Button>
      </div>
      {tool === 'word' ? (
        <Field
          label="The word, put where you touch"
          value={word}
          maxLength={40}
          onChange={(event) => setWord(event.target.value)}
        />
      ) : null}
      <div className="flex flex-wrap gap-2">
        <Button tone="main" disabled={drawn === 0} onClick={() => void keep()}>
          Keep what is drawn
        </Button>
        <Button tone="quiet" onClick={() => void drop()}>
          Take this picture off the sheet
        </Button>
      </div>
    </div>
  );
}

/** The picture on one layer, what is drawn on another. */
async function open(
  holder: HTMLDivElement,
  picture: Blob,
  chosen: () => { tool: Tool; word: string },
  onDrawn: () => void,
): Promise<Konva.Stage> {
  const [{ default: konva }, bitmap] = await Promise.all([import('konva'), createImageBitmap(picture)]);
  const width = holder.clientWidth;
  const height = Math.round((width * bitmap.height) / bitmap.width);
  const stage = new konva.Stage({ container: holder, width, height });
  const under = new konva.Layer({ listening: false });
  const layer = new konva.Layer();
  under.add(new konva.Image({ image: bitmap, width, height }));
  stage.add(under, layer);
  const line = { stroke: COLOUR, strokeWidth: 5, shadowColor: EDGE, shadowBlur: 3, shadowOpacity: 1 };
  let from: { x: number; y: number } | null = null;
  let shape: Konva.Arrow | Konva.Ellipse | null = null;
  stage.on('pointerdown', () => {
    const at = stage.getPointerPosition();
    if (!at) return;
    const { tool, word } = chosen();
    if (tool === 'word') {
      if (!word.trim()) return;
      const size = Math.max(18, width / 18);
      layer.add(
        new konva.Text({
          ...at,
          text: word,
          fontSize: size,
          fontStyle: 'bold',
          fill: COLOUR,
          stroke: EDGE,
          strokeWidth: 3,
          fillAfterStrokeEnabled: true,
        }),
      );
      onDrawn();
      return;
    }
    from = at;
    shape =
      tool === 'arrow'
        ? new konva.Arrow({
            points: [at.x, at.y, at.x, at.y],
            fill: COLOUR,
            pointerLength: 16,
            pointerWidth: 16,
            ...line,
          })
        : new konva.Ellipse({ ...at, radiusX: 1, radiusY: 1, ...line });
    layer.add(shape);
  });
  stage.on('pointermove', () => {
    const at = stage.getPointerPosition();
    if (!at || !from || !shape) return;
    if (shape instanceof konva.Arrow) shape.points([from.x, from.y, at.x, at.y]);
    else {
      shape.position({ x: (from.x + at.x) / 2, y: (from.y + at.y) / 2 });
      shape.radius({ x: Math.abs(at.x - from.x) / 2 + 1, y: Math.abs(at.y - from.y) / 2 + 1 });
    }
  });
  stage.on('pointerup pointerleave', () => {
    if (shape) onDrawn();
    from = null;
    shape = null;
  });
  return stage;
}

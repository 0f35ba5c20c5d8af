import {
  addNode,
  lineWith,
  loopWith,
  nodesOfPiece,
  nodeWith,
  openSidesOf,
  placeAt,
  placeOnBorder,
  removeNodes,
  sidesOf,
  type PatternNode,
  type Piece,
} from '@lumbra/core';
import { ref, shallowRef } from 'vue';
import { usePatternActs } from '../../acts/usePatternActs';
import { followDrag } from '../../pointer/followDrag';
import { useDocumentStore } from '../../session/document';
import { usePatternStore } from '../../stores/pattern';
import { draggedNode, snapped, type NodePart, type Snapped } from './flatSpace';

/** What arrows move a node by, in m; with shift the larger. */
const NUDGE = { fine: 0.001, coarse: 0.01 };

/** The end of a line that is dragged as near as this to a border ends on it, in pixels. */
const BORDER = 8;

/**
 * Drawing the outline of a piece. What is dragged is shown alone until it is let go; then the piece is cut anew, and that is one undo.
 */
export function useNodeDrawing() {
  const document = useDocumentStore();
  const pattern = usePatternStore();
  const acts = usePatternActs();
  /** The piece that is being dragged, as it would be. */
  const draft = shallowRef<{ piece: Piece; guides: Snapped['guides'] } | null>(null);
  const cutting = ref(false);

  /** Takes what was drawn into the document. */
  async function take(piece: Piece, what: string, recipe: (own: Piece) => void): Promise<void> {
    const { cloth } = pattern;
    if (!cloth) return;
    cutting.value = true;
    await acts.changePiece(cloth, piece, what, recipe);
    cutting.value = false;
    draft.value = null;
  }

  /** Drags a node, or one of its handles, at so many pixels a metre; with ctrl nothing is kept to, with alt a handle turns alone. */
  function drag(event: PointerEvent, piece: Piece, node: PatternNode, part: NodePart, scale: number): void {
    pattern.selectNode(piece.id, node.id);
    if (document.readOnly || cutting.value) return;
    const from = part === 'at' ? node.at : [node.at[0] + node[part]![0], node.at[1] + node[part]![1]];
    const others = part === 'at' ? nodesOfPiece(piece).filter(({ id }) => id !== node.id) : [];
    const line = lineWith(piece, node.id)?.nodes;
    // A line may end on a border: near one it does.
    const isEnd = part === 'at' && line !== undefined && [line[0], line.at(-1)].includes(node);
    let last: { to: [number, number]; alone: boolean } | null = null;
    const change = (own: Piece) => {
      const found = nodeWith(own, node.id);
      if (found && last) Object.assign(found, draggedNode(node, part, last.to, last.alone));
    };
    followDrag(event, {
      move: (dx, dy, at) => {
        const wanted = [from[0]! + dx / scale, from[1]! - dy / scale] as const;
        const free = at.ctrlKey || at.metaKey;
        const { at: to, guides } = snapped(
          wanted,
          others.map((one) => one.at),
          scale,
          free,
        );
        const onBorder = isEnd && !free ? placeOnBorder(piece, wanted, BORDER / scale) : null;
        last = { to: onBorder ? [onBorder[0], onBorder[1]] : to, alone: at.altKey };
        const next = JSON.parse(JSON.stringify(piece)) as Piece;
        change(next);
        draft.value = { piece: next, guides: onBorder ? { u: null, v: null } : guides };
      },
      end: (moved) => {
        if (moved && last) void take(piece, part === 'at' ? 'node' : 'curve', change);
      },
      cancel: () => (draft.value = null),
    });
  }

  /** Arrows move a node by a millimetre, with shift by a centimetre; Delete takes it away. */
  function onNodeKey(event: KeyboardEvent, piece: Piece, node: PatternNode): void {
    const step = event.shiftKey ? NUDGE.coarse : NUDGE.fine;
    const by = { ArrowLeft: [-step, 0], ArrowRight: [step, 0], ArrowUp: [0, step], ArrowDown: [0, -step] }[event.key];
    if (!by && event.key !== 'Delete' && event.key !== 'Backspace') return;
    event.preventDefault();
    event.stopPropagation();
    pattern.selectNode(piece.id, node.id);
    if (by) {
      void take(piece, 'node', (own) => {
        const found = nodeWith(own, node.id);
        if (found) found.at = [found.at[0] + by[0]!, found.at[1] + by[1]!];
      });
    } else if (pattern.cloth) {
      void acts.changePiece(pattern.cloth, piece, 'one node less', (own, all) => removeNodes(all, own.id, [node.id]));
    }
  }

  /** Puts a node on a side of a border or a line, nearest to a place of the piece in m. */
  function splitAt([u, v]: readonly [number, number], piece: Piece, from: string): void {
    if (document.readOnly) return;
    const line = lineWith(piece, from)?.nodes;
    const nodes = line ?? loopWith(piece, from)!;
    const side = (line ? openSidesOf : sidesOf)(nodes)[nodes.findIndex(({ id }) => id === from)]!;
    let [best, nearest] = [0.5, Infinity];
    for (let i = 1; i < 100; i++) {
      const [x, y] = placeAt(side, i / 100);
      const off = Math.hypot(x - u, y - v);
      if (off < nearest) [best, nearest] = [i / 100, off];
    }
    void take(piece, 'one node more', (own) => {
      const id = addNode(own, from, best);
      if (id) pattern.nodeId = id;
    });
  }

  return { draft, cutting, drag, onNodeKey, splitAt };
}

/** A drawing over as many sheets of paper as it needs: lengths of paper in millimetres, of the drawing in its own units. */

export const PAPERS = { A4: [210, 297], Letter: [215.9, 279.4] } as const;
export type Paper = keyof typeof PAPERS;

export const MARGIN = 10;
/** A strip for the name of the sheet, and how much of the drawing two neighbours share, to be glued. */
const STRIP = 9;
const SHARED = 8;
/** Millimetres for one unit at least: words of 11 units are then 2.2 mm high, small print. */
const LEAST = 0.2;
export const MOST_ACROSS = 4;

export interface Sheet {
  row: number;
  column: number;
  /** The piece of the drawing on it. */
  x: number;
  y: number;
  w: number;
  h: number;
}

export interface Sheets {
  columns: number;
  rows: number;
  /** Millimetres of one sheet's picture. */
  width: number;
  height: number;
  sheets: Sheet[];
}

/** Room for the picture on a sheet, in millimetres. */
export function roomOn(paper: Paper, landscape: boolean): [number, number] {
  const [short, long] = PAPERS[paper];
  const [width, height] = landscape ? [long, short] : [short, long];
  return [width - 2 * MARGIN, height - 2 * MARGIN - STRIP];
}

/** Cut a drawing into sheets, so many side by side, or (none said) into as few as leave its words readable; never blown up. */
export function cut(drawing: { width: number; height: number }, paper: Paper, landscape: boolean, across?: number): Sheets {
  const [width, height] = roomOn(paper, landscape);
  const asked = across
    ? (across * width - (across - 1) * SHARED) / drawing.width
    : Math.max(LEAST, Math.min(width / drawing.width, height / drawing.height));
  const scale = Math.min(asked, 2 * LEAST);
  const count = (length: number, room: number) => Math.max(1, Math.ceil((length * scale - SHARED - 0.01) / (room - SHARED)));
  const [columns, rows] = [count(drawing.width, width), count(drawing.height, height)];
  const sheets = Array.from({ length: rows * columns }, (_, i) => {
    const [row, column] = [Math.floor(i / columns), i % columns];
    return {
      row,
      column,
      x: (column * (width - SHARED)) / scale,
      y: (row * (height - SHARED)) / scale,
      w: width / scale,
      h: height / scale,
    };
  });
  return { columns, rows, width, height, sheets };
}

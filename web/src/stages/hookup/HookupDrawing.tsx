/** The hookup's drawing on screen: follows the step at hand, or is moved, enlarged and fitted; touched points go to the meter. */
import { useQuery } from "@tanstack/react-query";
import { type KeyboardEvent, type PointerEvent, type ReactNode, useEffect, useRef, useState } from "react";
import { Link } from "react-router";
import type { Hookup, Step } from "../../api/client";
import { saveAs } from "../../lib/saveAs";
import { useSettings } from "../../lib/settings";
import { hookupDrawing as say } from "../../texts/hookup";
import { sentence } from "../../texts/units";
import { DrawingImage, partsOf, placeOf, type Tips } from "./DrawingImage";
import { type Laid, layOut } from "./layout";

const STEP_PX = 60;
/** Pixels for one unit of the drawing: words of 11 units are read from 0.9 on. */
const READABLE = 0.95;
const MOST = 4;

export function useLaid(plan: Hookup | undefined) {
  const { units } = useSettings();
  return useQuery({
    queryKey: ["layout", plan?.drawing, units],
    queryFn: () => layOut((plan as Hookup).drawing, (text) => sentence(text, units)),
    enabled: plan !== undefined,
    staleTime: Number.POSITIVE_INFINITY,
    retry: false,
  });
}

/** What the letters mean, of the colours that occur. */
export function Letters({ plan }: { plan: Hookup }) {
  const known = Object.entries(plan.drawing.letters).sort();
  if (known.length === 0) return null;
  return (
    <p className="mt-1 text-small text-ink2">
      {say.coloursAndTheirLetters(known.map(([code, name]) => `${code} ${name}`).join(", "))}
    </p>
  );
}

/** Middle of what a step is about, and how wide and high that is. */
function focusOf(plan: Hookup, laid: Laid, step: Step | undefined) {
  const lit = partsOf(plan, step?.blocks ?? []);
  const boxes = laid.parts.filter((p) => lit.has(p.id));
  const tips = [step?.reading?.red, step?.reading?.black].flatMap((t) => (t ? (placeOf(plan, laid, t) ?? []) : []));
  const xs = [...boxes.flatMap((b) => [b.x, b.x + b.w]), ...tips.map((t) => t.x)];
  const ys = [...boxes.flatMap((b) => [b.y, b.y + b.h]), ...tips.map((t) => t.y)];
  if (xs.length === 0) return { x: laid.width / 2, y: laid.height / 2, w: laid.width, h: laid.height };
  const [left, right, top, bottom] = [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)];
  return { x: (left + right) / 2, y: (top + bottom) / 2, w: right - left, h: bottom - top };
}

interface View {
  x: number;
  y: number;
  scale: number;
}

interface Props {
  plan: Hookup;
  step: Step | undefined;
  done: Set<string>;
  tips: Tips;
  onTouch: (terminals: string[]) => void;
  wide: boolean;
  onWide: (wide: boolean) => void;
  printed: string;
  /** What is said right under the picture. */
  children?: ReactNode;
}

export function HookupDrawing({ plan, step, done, tips, onTouch, wide, onWide, printed, children }: Props) {
  const frame = useRef<HTMLDivElement>(null);
  const image = useRef<SVGSVGElement>(null);
  const held = useRef<{ x: number; y: number } | null>(null);
  const [size, setSize] = useState({ w: 600, h: 480 });
  // Where somebody has moved it to; undefined: it follows the step, or shows the whole.
  const [own, setOwn] = useState<View>();
  const [whole, setWhole] = useState(false);
  const found = useLaid(plan);
  const laid = found.data;
  const shown = laid !== undefined;
  useEffect(() => {
    const box = frame.current;
    if (!box || !shown || typeof ResizeObserver === "undefined") return;
    const watch = new ResizeObserver(() => setSize({ w: box.clientWidth, h: box.clientHeight }));
    watch.observe(box);
    return () => watch.disconnect();
  }, [shown]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: another step is looked at where it is
  useEffect(() => setOwn(undefined), [step?.id]);
  if (found.error) return <p className="rounded-lg border border-dashed border-strong p-3 text-ink2">{say.theDrawingCannotBe}</p>;
  if (!laid) return <p className="p-3 text-ink2">{say.layingTheDrawingOut}</p>;
  const fit = Math.min(size.w / laid.width, size.h / laid.height, 1.15);
  const followed = (): View => {
    const focus = focusOf(plan, laid, step);
    const scale = Math.max(fit, Math.min(READABLE, size.w / (focus.w + 60), size.h / (focus.h + 60)));
    // No paper is shown beyond the drawing's edge while there is drawing left on the other side.
    const inside = (middle: number, room: number, length: number) =>
      room >= length ? length / 2 : Math.min(Math.max(middle, room / 2), length - room / 2);
    return { scale, x: inside(focus.x, size.w / scale, laid.width), y: inside(focus.y, size.h / scale, laid.height) };
  };
  const view = own ?? (whole ? { scale: fit, x: laid.width / 2, y: laid.height / 2 } : followed());
  const by = (k: number) => setOwn({ ...view, scale: Math.min(Math.max(view.scale * k, fit), MOST) });
  const move = (px: number, py: number) => setOwn({ ...view, x: view.x - px / view.scale, y: view.y - py / view.scale });
  const showWhole = (on: boolean) => {
    setWhole(on);
    setOwn(undefined);
  };
  const keys = (e: KeyboardEvent) => {
    const ways = new Map<string, () => void>([
      ["ArrowLeft", () => move(STEP_PX, 0)],
      ["ArrowRight", () => move(-STEP_PX, 0)],
      ["ArrowUp", () => move(0, STEP_PX)],
      ["ArrowDown", () => move(0, -STEP_PX)],
      ["+", () => by(1.25)],
      ["-", () => by(0.8)],
      ["0", () => showWhole(true)],
    ]);
    const way = ways.get(e.key);
    if (!way || e.ctrlKey || e.metaKey) return;
    e.preventDefault();
    way();
  };
  const letGo = () => {
    held.current = null;
  };
  const drag = (e: PointerEvent) => {
    if (!held.current) return;
    move(e.clientX - held.current.x, e.clientY - held.current.y);
    held.current = { x: e.clientX, y: e.clientY };
  };
  const [w, h] = [size.w / view.scale, size.h / view.scale];
  const save = () => {
    if (!image.current) return;
    const copy = image.current.cloneNode(true) as SVGSVGElement;
    copy.setAttribute("xmlns", "http://www.w3.org/2000/svg");
    copy.setAttribute("viewBox", `0 0 ${laid.width} ${laid.height}`);
    copy.setAttribute("width", String(laid.width));
    copy.setAttribute("height", String(laid.height));
    // Its own ground, so that a drawing saved at night is read on white as well.
    const ground = document.createElementNS("http://www.w3.org/2000/svg", "rect");
    ground.setAttribute("width", String(laid.width));
    ground.setAttribute("height", String(laid.height));
    ground.setAttribute("fill", "var(--paper)");
    copy.prepend(ground);
    copy.setAttribute("font-family", getComputedStyle(image.current).fontFamily);
    const named = getComputedStyle(document.documentElement);
    saveAs(
      copy.outerHTML.replace(/var\((--[\w-]+)\)/g, (_m, name) => named.getPropertyValue(name).trim() || "black"),
      "hookup.svg",
      "image/svg+xml",
    );
  };
  return (
    <figure className="min-w-0">
      <div
        ref={frame}
        // biome-ignore lint/a11y/noNoninteractiveTabindex: it is moved and enlarged by keys
        tabIndex={0}
        role="group"
        aria-label={say.drawingMovedWithThe}
        className="cursor-grab touch-pan-y overflow-hidden rounded-lg border border-line bg-paper active:cursor-grabbing"
        style={{
          height: `min(${wide ? "76vh" : "60vh"}, ${Math.ceil(Math.min(1.15, size.w / laid.width) * laid.height) + 2}px)`,
          minHeight: 240,
        }}
        onKeyDown={keys}
        onPointerDown={(e) => {
          // A port is touched, not dragged.
          if ((e.target as Element).closest("[data-port]")) return;
          held.current = { x: e.clientX, y: e.clientY };
          e.currentTarget.setPointerCapture(e.pointerId);
        }}
        onPointerMove={drag}
        onPointerUp={letGo}
        onPointerCancel={letGo}
      >
        <svg
          ref={image}
          viewBox={`${view.x - w / 2} ${view.y - h / 2} ${w} ${h}`}
          className="block size-full"
          role="img"
          aria-label={step ? say.drawingAtStep(step.title) : say.drawing}
        >
          <DrawingImage plan={plan} laid={laid} step={step} done={done} tips={tips} onTouch={onTouch} />
        </svg>
      </div>
      {children}
      <div className="noprint mt-2 flex flex-wrap gap-1.5">
        <button type="button" className="btn" aria-pressed={!own && !whole} onClick={() => showWhole(false)}>
          {say.followTheStep}
        </button>
        <button type="button" className="btn" aria-pressed={!own && whole} onClick={() => showWhole(true)}>
          {say.whole}
        </button>
        <button type="button" className="btn" aria-label={say.enlargeTheDrawing} onClick={() => by(1.3)}>
          +
        </button>
        <button
          type="button"
          className="btn"
          aria-label={say.makeTheDrawingSmaller}
          onClick={() => by(1 / 1.3)}
          disabled={view.scale <= fit * 1.001}
        >
          −
        </button>
        <button type="button" className="btn max-wide:hidden" aria-pressed={wide} onClick={() => onWide(!wide)}>
          {say.large}
        </button>
        <button type="button" className="btn quiet" onClick={save}>
          {say.saveAsSvg}
        </button>
        <Link className="btn quiet" to={printed}>
          {say.printIt}
        </Link>
      </div>
      <figcaption className="noprint">
        <Letters plan={plan} />
      </figcaption>
    </figure>
  );
}

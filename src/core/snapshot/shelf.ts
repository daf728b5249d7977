import type { Box } from './layout';

/** A layout for any device that draws boxes. */
interface ShelfLayout {
  readonly name: string;
  readonly boxes: readonly Omit<Box, 'on' | 'source'>[];
}

type Crop = readonly [left: number, top: number, right: number, bottom: number];
const whole: Crop = [0, 0, 0, 0];
const box = (x: number, y: number, size: number, [left, top, right, bottom] = whole) => ({
  x,
  y,
  size,
  left,
  top,
  right,
  bottom,
});
/** Cropped at both sides. */
const sides = (crop: number): Crop => [crop, 0, crop, 0];
const full = box(0.5, 0.5, 1);

/** The layouts that ship: two to four boxes, side by side, one in another, upright. */
export const shelfLayouts: readonly ShelfLayout[] = [
  { name: 'Side by side', boxes: [box(0.25, 0.5, 0.48), box(0.75, 0.5, 0.48)] },
  { name: 'Two halves', boxes: [box(0.25, 0.5, 1, sides(25)), box(0.75, 0.5, 1, sides(25))] },
  { name: 'Large left, small right', boxes: [box(0.345, 0.5, 0.64), box(0.84, 0.5, 0.3)] },
  { name: 'Small left, large right', boxes: [box(0.16, 0.5, 0.3), box(0.655, 0.5, 0.64)] },
  { name: 'Two thirds and a third', boxes: [box(0.33, 0.5, 1, sides(17)), box(0.83, 0.5, 1, sides(33))] },
  { name: 'A third and two thirds', boxes: [box(0.17, 0.5, 1, sides(33)), box(0.67, 0.5, 1, sides(17))] },
  { name: 'Above and below', boxes: [box(0.5, 0.255, 0.48), box(0.5, 0.745, 0.48)] },
  { name: 'Steps down', boxes: [box(0.29, 0.29, 0.5), box(0.71, 0.71, 0.5)] },
  { name: 'Conversation', boxes: [box(0.27, 0.48, 0.6, sides(13)), box(0.73, 0.48, 0.6, sides(13))] },
  { name: 'Inset top left', boxes: [full, box(0.17, 0.17, 0.26)] },
  { name: 'Inset top right', boxes: [full, box(0.83, 0.17, 0.26)] },
  { name: 'Inset bottom left', boxes: [full, box(0.17, 0.83, 0.26)] },
  { name: 'Inset bottom right', boxes: [full, box(0.83, 0.83, 0.26)] },
  { name: 'Upright inset right', boxes: [full, box(0.86, 0.5, 0.7, sides(34))] },
  { name: 'Upright in the middle', boxes: [box(0.5, 0.5, 1, sides(34))] },
  { name: 'Three in a row', boxes: [box(0.175, 0.5, 0.31), box(0.5, 0.5, 0.31), box(0.825, 0.5, 0.31)] },
  {
    name: 'Three upright',
    boxes: [box(0.17, 0.5, 0.96, sides(34)), box(0.5, 0.5, 0.96, sides(34)), box(0.83, 0.5, 0.96, sides(34))],
  },
  { name: 'One large, two right', boxes: [box(0.345, 0.5, 0.64), box(0.84, 0.335, 0.3), box(0.84, 0.665, 0.3)] },
  { name: 'Two left, one large', boxes: [box(0.16, 0.335, 0.3), box(0.16, 0.665, 0.3), box(0.655, 0.5, 0.64)] },
  { name: 'Two above, one below', boxes: [box(0.26, 0.26, 0.46), box(0.74, 0.26, 0.46), box(0.5, 0.74, 0.46)] },
  { name: 'One above, two below', boxes: [box(0.5, 0.26, 0.46), box(0.26, 0.74, 0.46), box(0.74, 0.74, 0.46)] },
  {
    name: 'Four quarters',
    boxes: [box(0.255, 0.255, 0.48), box(0.745, 0.255, 0.48), box(0.255, 0.745, 0.48), box(0.745, 0.745, 0.48)],
  },
  {
    name: 'One large, three right',
    boxes: [box(0.36, 0.5, 0.68), box(0.86, 0.21, 0.25), box(0.86, 0.5, 0.25), box(0.86, 0.79, 0.25)],
  },
  {
    name: 'Four upright',
    boxes: [0.13, 0.377, 0.623, 0.87].map((x) => box(x, 0.5, 0.94, sides(37))),
  },
];

// @vitest-environment jsdom
import { act, cleanup, fireEvent, render, screen } from '@testing-library/react';
import { afterEach, beforeEach, describe, expect, test, vi } from 'vitest';
import { guardMs, ScrollsContext, useHand } from './use-hand';

/** What the hand of a test has brought about, in order. */
let log: string[] = [];

type Props = {
  readonly guarded?: boolean;
  readonly twice?: boolean;
  readonly disabled?: boolean;
  readonly holds?: boolean;
};

function Control({ holds, ...hand }: Props) {
  const { filling, armed, held, element, handlers } = useHand({
    ...hand,
    onPress: (guard) => log.push(guard ? 'press, guard met' : 'press'),
    ...(holds
      ? {
          onHold: (guard: boolean) => {
            log.push(guard ? 'hold, guard met' : 'hold');
            return () => log.push('release');
          },
        }
      : {}),
  });
  return (
    <button type="button" ref={element} {...handlers}>
      {filling ? 'filling' : armed ? 'armed' : held ? 'held' : 'free'}
    </button>
  );
}

const control = () => screen.getByRole('button');
const state = () => control().textContent;
const down = (more: object = {}) => fireEvent.pointerDown(control(), { button: 0, pointerId: 1, ...more });
const up = () => fireEvent.pointerUp(control(), { pointerId: 1 });
const pass = (ms: number) => act(() => vi.advanceTimersByTime(ms));

beforeEach(() => {
  log = [];
  vi.useFakeTimers();
  // jsdom knows no pointer capture.
  Element.prototype.setPointerCapture = vi.fn();
});
afterEach(() => {
  cleanup();
  vi.useRealTimers();
});

/** How a hand, or the control, can go. */
const waysToLeave = [
  ['the pointer is lifted', up],
  ['the pointer is cancelled', () => fireEvent.pointerCancel(control(), { pointerId: 1 })],
  ['the capture is lost', () => fireEvent.lostPointerCapture(control(), { pointerId: 1 })],
  ['the window loses the focus', () => fireEvent.blur(window)],
  ['the page is left', () => fireEvent(window, new Event('pagehide'))],
  ['the control disappears', cleanup],
] as const;

describe('a tap', () => {
  test('fires on pointer-down, once', () => {
    render(<Control />);
    down();
    expect(log).toEqual(['press']);
    up();
    fireEvent.click(control(), { detail: 1 });
    expect(log).toEqual(['press']);
  });

  test('fires on a click that no pointer made: the keyboard and assistive tools', () => {
    render(<Control />);
    fireEvent.click(control(), { detail: 0 });
    expect(log).toEqual(['press']);
  });

  test('is not fired by the other buttons of a mouse, nor on a disabled control', () => {
    const { rerender } = render(<Control />);
    down({ button: 2 });
    rerender(<Control disabled />);
    down();
    fireEvent.click(control(), { detail: 0 });
    expect(log).toEqual([]);
  });
});

describe('a guard', () => {
  test('sends when its bar is full, and not a millisecond before', () => {
    render(<Control guarded />);
    down();
    expect(state()).toBe('filling');
    pass(guardMs - 1);
    expect(log).toEqual([]);
    pass(1);
    expect(log).toEqual(['press, guard met']);
    pass(10 * guardMs);
    up();
    expect(log).toEqual(['press, guard met']);
  });

  test.each(waysToLeave)('sends nothing when %s before that', (_how, leave) => {
    render(<Control guarded />);
    down();
    pass(guardMs - 1);
    leave();
    pass(10 * guardMs);
    expect(log).toEqual([]);
  });

  test('is met with the keyboard as well, and a click alone does not meet it', () => {
    render(<Control guarded />);
    fireEvent.click(control(), { detail: 0 });
    expect(log).toEqual([]);
    fireEvent.keyDown(control(), { key: 'Enter' });
    // A key that stays down repeats; that begins nothing anew.
    pass(guardMs / 2);
    fireEvent.keyDown(control(), { key: 'Enter', repeat: true });
    pass(guardMs / 2);
    expect(log).toEqual(['press, guard met']);
    fireEvent.keyUp(control(), { key: 'Enter' });
    expect(log).toEqual(['press, guard met']);
  });

  test('starts from nothing after a hand has left it', () => {
    render(<Control guarded />);
    down();
    pass(guardMs - 1);
    up();
    down();
    pass(guardMs - 1);
    expect(log).toEqual([]);
    pass(1);
    expect(log).toEqual(['press, guard met']);
  });
});

describe('press twice', () => {
  test('sends on the second press, which may also come from the keyboard', () => {
    render(<Control guarded twice />);
    down();
    up();
    expect(state()).toBe('armed');
    expect(log).toEqual([]);
    fireEvent.click(control(), { detail: 0 });
    expect(log).toEqual(['press, guard met']);
    expect(state()).toBe('free');
  });

  test('forgets the first press after a while', () => {
    render(<Control guarded twice />);
    down();
    up();
    pass(1500);
    expect(state()).toBe('free');
    down();
    up();
    expect(log).toEqual([]);
    expect(state()).toBe('armed');
  });
});

describe('a hold', () => {
  test.each(waysToLeave)('ends once when %s', (_how, leave) => {
    render(<Control holds />);
    down();
    expect(log).toEqual(['hold']);
    leave();
    expect(log).toEqual(['hold', 'release']);
  });

  test('ends when the screen is switched off', () => {
    render(<Control holds />);
    down();
    const visible = vi.spyOn(document, 'visibilityState', 'get').mockReturnValue('hidden');
    fireEvent(document, new Event('visibilitychange'));
    visible.mockRestore();
    expect(log).toEqual(['hold', 'release']);
  });

  test('is captured, so that a finger that slips off still ends it', () => {
    render(<Control holds />);
    down({ pointerId: 7 });
    expect(Element.prototype.setPointerCapture).toHaveBeenCalledWith(7);
  });

  test('goes on while another finger takes the focus, and ends when the window does', () => {
    render(
      <>
        <Control holds />
        <input aria-label="elsewhere" />
      </>,
    );
    act(() => control().focus());
    down();
    act(() => screen.getByLabelText('elsewhere').focus());
    expect(log).toEqual(['hold']);
    // A window that loses the focus leaves the active element where it is.
    act(() => control().focus());
    fireEvent.blur(control());
    expect(log).toEqual(['hold', 'release']);
  });

  test('of the keyboard ends when the focus goes elsewhere', () => {
    render(
      <>
        <Control holds />
        <input aria-label="elsewhere" />
      </>,
    );
    act(() => control().focus());
    fireEvent.keyDown(control(), { key: ' ' });
    expect(log).toEqual(['hold']);
    act(() => screen.getByLabelText('elsewhere').focus());
    expect(log).toEqual(['hold', 'release']);
  });

  test('that is guarded begins when the guard is met, and ends once', () => {
    render(<Control holds guarded />);
    down();
    pass(guardMs);
    expect(log).toEqual(['hold, guard met']);
    expect(state()).toBe('held');
    up();
    fireEvent.lostPointerCapture(control(), { pointerId: 1 });
    expect(log).toEqual(['hold, guard met', 'release']);
  });

  test('ends although the control is disabled meanwhile', () => {
    const { rerender } = render(<Control holds />);
    down();
    rerender(<Control holds disabled />);
    up();
    expect(log).toEqual(['hold', 'release']);
  });

  test('by a second pointer begins nothing anew', () => {
    render(<Control holds />);
    down();
    down({ pointerId: 2 });
    expect(log).toEqual(['hold']);
  });
});

describe('a finger on a page that scrolls', () => {
  const onScrollingPage = (props: Props = {}) =>
    render(
      <ScrollsContext value>
        <Control {...props} />
      </ScrollsContext>,
    );
  const finger = { pointerType: 'touch', clientX: 100, clientY: 100 };

  test('presses when it has rested for a moment', () => {
    onScrollingPage();
    down(finger);
    expect(log).toEqual([]);
    pass(60);
    expect(log).toEqual(['press']);
    up();
    expect(log).toEqual(['press']);
  });

  test('presses when it is lifted before that', () => {
    onScrollingPage();
    down(finger);
    pass(20);
    up();
    expect(log).toEqual(['press']);
  });

  test('scrolls and does not press when it moves', () => {
    onScrollingPage();
    down(finger);
    fireEvent.pointerMove(control(), { pointerId: 1, clientX: 100, clientY: 109 });
    pass(500);
    fireEvent.pointerCancel(control(), { pointerId: 1 });
    expect(log).toEqual([]);
  });

  test('presses although it trembles', () => {
    onScrollingPage();
    down(finger);
    fireEvent.pointerMove(control(), { pointerId: 1, clientX: 103, clientY: 104 });
    pass(60);
    expect(log).toEqual(['press']);
  });

  test('that has pressed keeps the page still', () => {
    onScrollingPage();
    down(finger);
    const before = new Event('touchmove', { bubbles: true, cancelable: true });
    control().dispatchEvent(before);
    expect(before.defaultPrevented).toBe(false);
    pass(60);
    const after = new Event('touchmove', { bubbles: true, cancelable: true });
    control().dispatchEvent(after);
    expect(after.defaultPrevented).toBe(true);
  });

  test('does not delay a mouse', () => {
    onScrollingPage();
    down({ ...finger, pointerType: 'mouse' });
    expect(log).toEqual(['press']);
  });
});

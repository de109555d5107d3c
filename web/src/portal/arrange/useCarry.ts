import {
  type Announcements,
  type DragEndEvent,
  type DragOverEvent,
  type DragStartEvent,
  MeasuringStrategy,
  MouseSensor,
  TouchSensor,
  useSensor,
  useSensors,
} from '@dnd-kit/core';
import { type KeyboardEvent, useEffect, useLayoutEffect, useRef, useState } from 'react';
import { words } from '../../words/en';
import {
  behind,
  type Carried,
  type Lists,
  over,
  preview,
  staysPut,
  step,
  takeUp,
  type Way,
} from './carrying';

const WAYS: Record<string, Way> = {
  ArrowLeft: 'earlier',
  ArrowRight: 'later',
  ArrowUp: 'up',
  ArrowDown: 'down',
};

/** Where something would be put down: over it, it stays there. */
export const FREE = '·';

/** A thing in a list, as one text for the library. */
export function placeId(list: string, item: string | null): string {
  return `${list}|${item ?? ''}`;
}

function placeOf(id: string): { list: string; item: string | null } {
  const at = id.indexOf('|');
  return { list: id.slice(0, at), item: id.slice(at + 1) || null };
}

// The library speaks of ids; what is said stands in a region of our own.
const SILENT: Announcements = {
  onDragStart: () => undefined,
  onDragOver: () => undefined,
  onDragEnd: () => undefined,
  onDragCancel: () => undefined,
};

/**
 * Carries things between lists by mouse, touch and keys: space takes up and puts down, arrows move,
 * Escape leaves all as it was.
 *
 * @param marked what goes along when one of them is taken up
 * @param upright whether a list runs downwards, so that up and down go one place
 * @param name what a thing or list is called, as it is spoken
 * @param busy whether what was put down last is still being done; it stands there meanwhile
 */
export function useCarry({
  lists,
  marked = [],
  upright = false,
  name,
  busy,
  onDrop,
}: {
  lists: Lists;
  marked?: readonly string[];
  upright?: boolean;
  name: (id: string) => string;
  busy: boolean;
  onDrop: (carried: Carried, after: string | null) => void;
}) {
  const [carried, setCarried] = useState<Carried>();
  const [byKeys, setByKeys] = useState(false);
  const [phase, setPhase] = useState<'none' | 'carrying' | 'settling'>('none');
  const [said, say] = useState('');
  const wasBusy = useRef(false);
  const held = phase === 'carrying' ? carried : undefined;

  // What was put down stands where it was put until what is shown has it there.
  useEffect(() => {
    if (phase === 'settling' && wasBusy.current && !busy) {
      setPhase('none');
    }
    wasBusy.current = busy;
  }, [busy, phase]);

  // Whoever carries by the keys keeps the focus on what they carry.
  useLayoutEffect(() => {
    if (byKeys && carried !== undefined && phase !== 'none') {
      const place = placeId(carried.list, carried.items[0] ?? '');
      document.querySelector<HTMLElement>(`[data-place="${CSS.escape(place)}"]`)?.focus();
    }
  });

  const names = (of: Carried) => of.items.map(name).join(', ');
  const begin = (list: string, item: string, keys: boolean) => {
    const all = lists.find((one) => one.id === list)?.items ?? [];
    const together = marked.includes(item) ? marked.filter((one) => all.includes(one)) : [item];
    const taken = takeUp(lists, list, together);
    setCarried(taken);
    setByKeys(keys);
    setPhase('carrying');
    say(words.arrange.takenUp(names(taken), taken.index + 1, name(list)));
  };
  const move = (next: Carried) => {
    setCarried(next);
    say(words.arrange.isAt(next.index + 1, name(next.list)));
  };
  const drop = () => {
    if (held !== undefined) {
      const put = !staysPut(lists, held);
      say(
        put
          ? words.arrange.putDown(names(held), held.index + 1, name(held.list))
          : words.arrange.leftAlone(names(held)),
      );
      setPhase(put ? 'settling' : 'none');
      if (put) {
        onDrop(held, behind(lists, held));
      }
    }
  };
  const cancel = () => {
    if (held !== undefined) {
      say(words.arrange.leftAlone(names(held)));
      setPhase('none');
    }
  };
  const sensors = useSensors(
    useSensor(MouseSensor, { activationConstraint: { distance: 6 } }),
    useSensor(TouchSensor, { activationConstraint: { delay: 180, tolerance: 8 } }),
  );
  return {
    carried: held,
    said,
    /** What stands in a list; null where what a pointer carries would be put down. */
    shown: (list: string, items: readonly string[]): (string | null)[] => {
      if (carried === undefined || phase === 'none') {
        return [...items];
      }
      const all = preview(lists, carried, list);
      return phase === 'carrying' && !byKeys
        ? all
        : all.flatMap((item) => (item === null ? carried.items : [item]));
    },
    onKeyDown: (list: string, item: string) => (event: KeyboardEvent) => {
      const way = WAYS[event.key];
      if (event.key === ' ') {
        event.preventDefault();
        if (held === undefined) {
          begin(list, item, true);
        } else {
          drop();
        }
      } else if (held !== undefined && event.key === 'Enter') {
        event.preventDefault();
        drop();
      } else if (held !== undefined && event.key === 'Escape') {
        event.preventDefault();
        event.stopPropagation();
        cancel();
      } else if (held !== undefined && event.key === 'Tab') {
        cancel();
        setByKeys(false);
      } else if (held !== undefined && way !== undefined) {
        event.preventDefault();
        move(
          step(
            lists,
            held,
            upright && way === 'up' ? 'earlier' : upright && way === 'down' ? 'later' : way,
          ),
        );
      }
    },
    context: {
      sensors,
      accessibility: { announcements: SILENT },
      // The others close up while something is carried.
      measuring: { droppable: { strategy: MeasuringStrategy.Always, frequency: 40 } },
      onDragStart: (event: DragStartEvent) => {
        const { list, item } = placeOf(String(event.active.id));
        if (item !== null) {
          begin(list, item, false);
        }
      },
      onDragOver: (event: DragOverEvent) => {
        if (held !== undefined && event.over !== null) {
          const place = placeOf(String(event.over.id));
          const next = over(lists, held, place.list, place.item);
          if (next.list !== held.list || next.index !== held.index) {
            move(next);
          }
        }
      },
      onDragEnd: (event: DragEndEvent) => (event.over === null ? cancel() : drop()),
      onDragCancel: cancel,
    },
  };
}

export type Carry = ReturnType<typeof useCarry>;

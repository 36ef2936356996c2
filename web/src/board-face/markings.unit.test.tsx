// @vitest-environment happy-dom
import { cleanup, render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { More } from '../ui/More';
import { Markings } from './Markings';

const PICTURE = {
  id: '01890000-0000-7000-8000-000000000001',
  side: 'top' as const,
  ties: [],
  widthPx: 1600,
  heightPx: 800,
};
const onTake = vi.fn();
const put = (of: string, read: (...asked: unknown[]) => Promise<string>): void => {
  render(
    <Markings of={of} picture={PICTURE} at={[0.5, 0.25]} mm={160} onTake={onTake} read={read} />,
  );
};
const look = () =>
  userEvent.click(screen.getByRole('button', { name: 'Read its marking off the picture' }));
afterEach(() => {
  cleanup();
  onTake.mockClear();
});

describe('markings of a part', () => {
  it('are offered with what they were read from, and taken by a press alone', async () => {
    put('U3', () => Promise.resolve('SN74LSI4N\n8523'));
    await look();
    const offer = await screen.findByRole('button', { name: '74LS14?' });
    expect(offer.title).toContain('SN74LSI4N');
    expect(onTake).not.toHaveBeenCalled();
    await userEvent.click(offer);
    expect(onTake).toHaveBeenCalledWith('74LS14');
  });
  it('are looked for about the part: so many millimetres of the picture', async () => {
    const read = vi.fn(() => Promise.resolve(''));
    put('C3', read);
    await look();
    expect(await screen.findByText(/Nothing that the library knows/)).toBeDefined();
    const [href, at, size] = read.mock.calls[0] as unknown as [string, number[], number[]];
    expect(href).toContain(PICTURE.id);
    expect(at).toEqual([0.5, 0.25]);
    // 26 by 14 mm of a picture that is 160 mm wide and 80 mm high.
    expect(size[0]).toBeCloseTo(26 / 160, 6);
    expect(size[1]).toBeCloseTo(14 / 80, 6);
  });
  it('say why they cannot be read, and can be asked for again', async () => {
    put('U3', () => Promise.reject(new Error('the reader does not start')));
    await look();
    expect((await screen.findByRole('alert')).textContent).toContain('the reader does not start');
    expect(
      screen.getByRole<HTMLButtonElement>('button', { name: /Read its marking/ }).disabled,
    ).toBe(false);
  });
});

describe('what is pressed rarely', () => {
  const menu = (): HTMLDetailsElement => screen.getByText('More').closest('details')!;
  const pressed = vi.fn();
  const open = async (): Promise<void> => {
    render(
      <>
        <p>elsewhere</p>
        <More label="More">
          <button onClick={pressed}>Print</button>
        </More>
      </>,
    );
    menu().open = true;
  };
  it('shuts by Escape and gives the focus back', async () => {
    await open();
    screen.getByRole('button', { name: 'Print' }).focus();
    await userEvent.keyboard('{Escape}');
    expect(menu().open).toBe(false);
    expect(document.activeElement?.textContent).toBe('More');
  });
  it('shuts by a press on one of it, which is done, and by one elsewhere', async () => {
    await open();
    await userEvent.click(screen.getByRole('button', { name: 'Print' }));
    expect(pressed).toHaveBeenCalledOnce();
    expect(menu().open).toBe(false);
    menu().open = true;
    await userEvent.click(screen.getByText('elsewhere'));
    expect(menu().open).toBe(false);
  });
});

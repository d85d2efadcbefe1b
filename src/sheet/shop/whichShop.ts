import type { ShopKind } from '@/store';

const KEY = 'sorter-shop';
const isShop = (text: string | null): text is ShopKind => text === 'own' || text === 'demo';

/** The shop that this tab works in; a new tab begins where the last one was. null: nobody has chosen yet. */
export function chosenShop(): ShopKind | null {
  const here = sessionStorage.getItem(KEY);
  const last = localStorage.getItem(KEY);
  return isShop(here) ? here : isShop(last) ? last : null;
}

/** This tab stays in the shop that it began in, whatever another tab does. */
export function rememberShop(shop: ShopKind): void {
  sessionStorage.setItem(KEY, shop);
  localStorage.setItem(KEY, shop);
}

/** To the other shop: the page begins anew, and nothing of this one comes along. */
export function goToShop(shop: ShopKind): void {
  rememberShop(shop);
  location.assign('/');
}

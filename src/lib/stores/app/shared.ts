/** Words by which a page and the service worker understand each other. */

/** A waiting build is taken up. */
export const TAKE_UP = 'take up the newer build';
/** Where other programs send what they share. */
export const SHARE_PLACE = '/shared';
/** Where that lies until it is taken in. */
export const SHARED_CACHE = 'even-thread-shared';

import type { Response } from 'express';

/** Sends a page's picture: it never changes, and is only for whom it was sent to. Shape: JPEG */
export function sendPicture(response: Response, picture: Buffer): void {
  response
    .set({
      'Content-Disposition': 'inline; filename="page.jpg"',
      'Content-Security-Policy': "default-src 'none'; sandbox",
      'Cache-Control': 'private, max-age=604800, immutable',
    })
    .type('image/jpeg')
    .send(picture);
}

/** Pictures of 32 x 16 pixels, brown with darker lines, as other programs write them: what cannot be made here. */
const JPEG =
  '/9j/4AAQSkZJRgABAQAAAQABAAD/2wBDAA0JCgsKCA0LCgsODg0PEyAVExISEyccHhcgLikxMC4pLSwzOko+MzZGNywtQFdBRkxOUlNSMj5aYVpQYEpRUk//2wBDAQ4ODhMREyYVFSZP' +
  'NS01T09PT09PT09PT09PT09PT09PT09PT09PT09PT09PT09PT09PT09PT09PT09PT09PT0//wAARCAAQACADASIAAhEBAxEB/8QAFQABAQAAAAAAAAAAAAAAAAAAAAX/xAAZEAABBQAA' +
  'AAAAAAAAAAAAAAAAAQIDM3L/xAAWAQEBAQAAAAAAAAAAAAAAAAAABAX/xAAUEQEAAAAAAAAAAAAAAAAAAAAA/9oADAMBAAIRAxEAPwCVFSzKCKlmUEVLMoIqWZQzV5FSzKCKlmUEVLMo' +
  'IqWZQD//2Q==';
const WEBP = 'UklGRlQAAABXRUJQVlA4IEgAAABwAwCdASogABAAPrVInkmnJCKhMAgA4BaJQBOgBC1+Q/Ac6jAA/sFMib1bhatHm3yh2IJ+RzvSpUoD+mgE3BxcmCc52/nAAAA=';

const bytesOf = (base64: string): Uint8Array => Uint8Array.from(atob(base64), (c) => c.charCodeAt(0));

declare function atob(text: string): string;

/** Baseline JPEG. */
export const jpegPicture = (): Uint8Array => bytesOf(JPEG);
/** Lossy WebP. */
export const webpPicture = (): Uint8Array => bytesOf(WEBP);

import { sha256 as digest } from '@noble/hashes/sha2';
import { bytesToHex } from '@noble/hashes/utils';

/** SHA-256 of bytes (FIPS 180-4) as 64 hex digits: the content hash that names an asset. */
export const sha256 = (bytes: Uint8Array): string => bytesToHex(digest(bytes));

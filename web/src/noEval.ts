import { z } from 'zod';

// The content security policy forbids making code of text; zod would try it once to be faster.
z.config({ jitless: true });

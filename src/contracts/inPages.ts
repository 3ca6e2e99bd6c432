import { z } from 'zod';

// In a page no text may be run as a program, which is how schemas are made quicker elsewhere: there it isn't even tried.
if (typeof window !== 'undefined') z.config({ jitless: true });

import { z } from "zod";

// Schemas would be compiled by evaluating text, which the content policy forbids: not even tried.
z.config({ jitless: true });

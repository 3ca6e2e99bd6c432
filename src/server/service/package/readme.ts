/** What a stranger finds in a package. */
export const PACKAGE_README = `This is a project of Lime Tick in one file: a ZIP of plain files.

project.json   the whole project as JSON: shots, levels, drawings, exposures (how long each drawing
               is held, in frames), timing charts, notes, the reel, sounds, receipts and recipes.
               "rate" is frames a second as a fraction, num / den. An exposure is a drawing's id and a
               number of frames; a drawing of null is blank. "version" under "document" is the form
               the document is written in. A JSON Schema of it is docs/package.schema.json of Lime Tick.

pictures/      one PNG for each distinct picture, named by its digest: SHA-256 over the width and the
               height as unsigned 32-bit big-endian numbers, then the pixels row by row, four bytes
               red, green, blue and alpha each, not multiplied by alpha; a pixel whose alpha is 0 counts
               as 0 0 0 0. A drawing's "picture" in project.json is that digest.

originals/     files that were brought in (recordings, clips, pictures), byte for byte, named by the
               SHA-256 of their bytes. Their own names are in project.json, under "originals".

To find what a level shows on frame n (from 0): walk its exposures and add up their frames until
the sum is larger than n; that exposure's drawing is seen.
`;

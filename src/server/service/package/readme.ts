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

journal.jsonl  if it is there: every change the project was made by, a line of JSON each, the oldest first:
               "step" is what was done, "inverse" what undoes it.

To find what a level shows on frame n (from 0): walk its exposures and add up their frames until
the sum is larger than n; that exposure's drawing is seen.
`;

/** What a stranger finds beside drawings alone. */
export const DRAWINGS_README = `These are the drawings of a film, and how long each is held.

film.csv       the film: its title, frames a second as a fraction, the size of its pictures, and what its first frame is called.
levels.csv     a row a level (drawings that lie over each other, the lowest first), with the folder its pictures lie in.
drawings.csv   a row a drawing: its number, what it is (key, breakdown, in-between) and its file. One picture that two drawings
               show is one file; a drawing without a file is planned and not drawn yet.
exposures.csv  a row an exposure, in order: the frame it begins on, how many frames it is held, and the drawing's number;
               . is blank. A level that is still shows its first drawing for the whole shot.

All tables are CSV with commas (RFC 4180), UTF-8; words that a spreadsheet would take for a formula begin with an apostrophe.
Pictures are PNG with straight transparency. Change them, keep their size, pack everything again as a ZIP, and Lime Tick
brings it in as a project. Charts, notes, sounds and the finish are not in it: a whole project is saved as a package.
`;

import type { Link } from './stages'

/** What each stage is for and how it is worked at, in some ten lines. */
export const HELP: Record<Link, readonly string[]> = {
  site: [
    'What the place puts on the building: snow on the ground, basic wind speed, terrain, altitude.',
    'The climate service fills these for a place by name; a value typed over it is marked as entered by hand.',
    'Each side may have a terrain, a directional factor and a hill of its own.',
    'The drawing shows q_p by side and over the height, and every arrangement of snow on the roof; a click on one shows it in Actions.',
    'The bearing turns the drawing so that north is up; it changes no number.',
  ],
  frame: [
    'What stands. Jigs set out halls, trusses, floors with their storeys and bracing from parameters; more is drawn by hand.',
    'What a jig made can be changed by hand too: such edits last when the jig changes, and are taken back one by one.',
    'Point at a grid line, slope or level of the key plan to look at that plane, and draw in it.',
    'Numbers take units and arithmetic: 7200mm, 3*7.2, 20ft.',
    'Choose names, filters or a window to choose many members; what is set then holds for all of them.',
    'Snags lists what is not joined, not held, or stands on nothing.',
    'Versions keeps named revisions, and compares them.',
    'Returned sends the model to a detailing office, and tells what differs in the one that comes back.',
  ],
  actions: [
    'Cases and the loads in them. Snow, wind, self-weight and imposed load follow from the site, the cladding and the jigs.',
    'Surfaces lays a roof, wall or floor flat, with its zones, pressures and what each carrier takes.',
    'Wind tells the pressures of each direction with their clauses; Local those of purlins, rails and posts.',
    'By hand adds cases, line and point loads, and pressures on many surfaces at once; what they make is drawn before it is taken.',
    'A load by hand is chosen by pointing at its arrows, with Shift beside others, and moved by its handles; pressures on panels by their corners.',
    'The balance of each case says what was expected, what was applied, and what the supports give back.',
  ],
  combinations: [
    'Cases with partial and combination factors, by the expressions of EN 1990.',
    'Generated ones follow every change; own ones are written beside them, or copied from one and changed.',
    'The sheet shows the chosen combination as factors on its cases; the view shows their loads together.',
    '“Governs” counts what a combination is proven for; those that govern nothing can be hidden.',
    'Keys , and . step from one to the next.',
  ],
  response: [
    'Forces, movements and reactions: of a case, a combination, or the least and greatest of many.',
    'Order “by α_cr” solves in second order where the critical factor asks for it (EN 1993-1-1 5.2.1).',
    'α_cr stands with each combination, with the shape in which it buckles; below 1 nothing passes.',
    'Two states can be laid side by side on one scale.',
    'Click a member for its diagrams with the values between the stations.',
  ],
  verification: [
    'Every criterion of every member in every combination; what governs stands first, with its proof.',
    'The restraint ribbon lays a member flat: click a flange to put a stay, drag it, and see what it would do.',
    'Effective lengths stand with the way that they were found; another way is taken by choosing it.',
    '“Not covered” is no pass: it names what the checks do not look at.',
    'Filters light up what is above 0.9, what stability governs, what fails.',
    '“What moves it most” compares small changes that were really solved.',
  ],
  sizing: [
    'Members that shall have one section are a group. Lock it, or say which series, depths and grades it may have.',
    'Sizing finds the lightest or cheapest building that passes, and verifies it as everything else is verified.',
    'Each group has a shelf with every candidate and what it would reach.',
    'Accept the whole, or group by group: both are one revision, and can be undone.',
    'Set-outs varies frames, pitch, haunches and bases, and sizes each.',
  ],
  dossier: [
    'The document that is handed over, shown as it will be printed.',
    'Each chapter may be left out, moved, or told in summary, normally or in full.',
    'Remarks stand at chapters and proofs; a checker puts questions at a section.',
    'Issue keeps a document as it was handed over, with its drawings and tables.',
    'Export gives IFC, DXF, tables and the document in its open format.',
  ],
}

// The dossier on paper. All that it says comes in as data.
#let data = json(bytes(sys.inputs.data))
#let ink = rgb("#1f2a33")
#let faint = rgb("#5b6670")
#let rule = rgb("#cfd4d8")
#let good = rgb("#2f6b4f")
#let bad = rgb("#a03b23")
#let gone = rgb("#7a5a14")

#set document(title: data.title, author: data.author)
#set page(
  paper: data.paper,
  margin: (left: 24mm, right: 18mm, top: 24mm, bottom: 22mm),
  header: context {
    let page = here().page()
    if page > 1 {
      let before = query(heading.where(level: 2)).filter(h => h.location().page() <= page)
      let chapters = query(heading.where(level: 1)).filter(h => h.location().page() <= page)
      set text(7.5pt, fill: faint)
      grid(
        columns: (1fr, auto),
        data.title + if data.place != "" { " · " + data.place },
        if chapters.len() > 0 { chapters.last().body },
      )
      v(-1.5mm)
      line(length: 100%, stroke: 0.3pt + rule)
    }
  },
  footer: context {
    set text(7.5pt, fill: faint)
    line(length: 100%, stroke: 0.3pt + rule)
    v(-1.6mm)
    grid(
      columns: (1fr, auto, 1fr),
      data.revision,
      data.made,
      align(right, counter(page).display() + " / " + str(counter(page).final().first())),
    )
  },
)
#set text(font: "IBM Plex Sans", stretch: 75%, size: 9.5pt, fill: ink, lang: "en")
#show math.equation: set text(font: ("New Computer Modern Math", "IBM Plex Sans"), size: 9pt)
#set par(leading: 0.55em, spacing: 0.75em)
#set heading(numbering: "1.1")
#set table(stroke: none, inset: (x: 1.2mm, y: 0.75mm))
#show heading.where(level: 1): it => block(text(15pt, weight: 700, it), above: 10mm, below: 4mm, sticky: true)
#show heading.where(level: 2): it => block(text(11.5pt, weight: 700, it), above: 6.5mm, below: 2.8mm, sticky: true)
#show heading.where(level: 3): it => block(text(9.5pt, weight: 700, it), above: 4.5mm, below: 2.2mm, sticky: true)
#show heading.where(level: 4): it => block(text(8.5pt, weight: 700, it), above: 4mm, below: 1.6mm, sticky: true)
// Typst's own entries put a word joiner before page numbers, which would be part of what is copied and searched
#show outline.entry: it => link(it.element.location(), block(below: 0.55em, width: 100%, {
  h(4mm * (it.level - 1))
  if it.level == 1 { text(weight: 700, [#it.prefix()#h(1.6mm)#it.body()]) } else [#it.prefix()#h(1.6mm)#it.body()]
  h(1fr)
  it.page()
}))

// words, in which subscripts come as pairs
#let said(parts) = for part in parts {
  if part.sub { sub(size: 0.72em, part.words) } else { part.words }
}
#let number(words) = text(font: "IBM Plex Mono", stretch: 100%, size: 0.86em, words)
#let mark(words) = if words == "passes" or words == "holds" { text(fill: good, words) } else if words.starts-with("fail") or words == "does not hold" { text(fill: bad, weight: 700, words) } else if words == "not covered" { text(fill: gone, weight: 700, words) } else { words }
#let cell(one) = {
  if one.kind == "number" { number(one.words) } else if one.kind == "link" {
    link(label(one.to), text(fill: rgb("#1f5f7a"), said(one.parts)))
  } else if one.kind == "mark" { mark(one.words) } else { said(one.parts) }
}
#let place(anchor) = context [#metadata((anchor: anchor, page: here().page(), down: here().position().y / 1mm)) <place>]

#let show-table(block) = {
  set text(8pt)
  show table.cell.where(y: 0): set text(weight: 700, size: 7.5pt, fill: faint)
  let marked = block.marked
  let small = block.rows.len() < 16
  std.block(breakable: not small, width: 100%, table(
    stroke: (x, y) => if y > 0 { (bottom: 0.2pt + rule) },
    columns: block.columns.map(c => if c.wide { 1fr } else { auto }),
    align: block.columns.map(c => (if c.right { right } else { left }) + horizon),
    fill: (x, y) => if marked >= 0 and y == marked + 1 { rgb("#eef2f4") } else { none },
    table.header(..block.columns.map(c => [#said(c.words)#if c.unit != "" [ \ #text(weight: 400, c.unit)]])),
    table.hline(stroke: 0.5pt + ink),
    ..block.rows.enumerate().map(((k, row)) => row.enumerate().map(((c, one)) => {
      if c == 0 and k < block.anchors.len() { place(block.anchors.at(k)) }
      cell(one)
    })).flatten(),
  ))
}
#let show-facts(block) = {
  set text(8.5pt)
  table(
    columns: (auto, auto, 1fr),
    align: (left + horizon, left + horizon, left + horizon),
    ..block.rows.map(r => (text(fill: faint, said(r.at(0))), if r.at(3) { number(r.at(1).first().words) } else { said(r.at(1)) }, text(fill: faint, said(r.at(2))), table.hline(stroke: 0.2pt + rule))).flatten(),
  )
}
#let show-proof(block) = {
  let head = [
    #text(weight: 700, block.title) #h(1fr) #text(fill: faint, 7.5pt, block.clause)
    #if block.combination != none [ \ #text(8pt, fill: faint)[#block.combination = #block.formula] ]
  ]
  std.block(above: 3.5mm, below: 1mm, breakable: false, sticky: true, width: 100%, if block.drawing == none { head } else {
    grid(columns: (1fr, auto), column-gutter: 4mm, align: bottom, head, image(bytes(block.drawing.svg), format: "svg", width: block.drawing.width * 0.62mm))
  })
  set text(8.5pt)
  table(
    columns: (1fr, auto, 30mm),
    align: (left + horizon, right + horizon, left + horizon),
    inset: (x: 1mm, y: 1.1mm),
    table.hline(stroke: 0.5pt + ink),
    ..block.steps.map(s => (
      table.cell(breakable: false, {
        set text(top-edge: "bounds", bottom-edge: "bounds")
        eval(s.symbol + if s.formula != "" { " = display(" + s.formula + ")" }, mode: "math")
        if s.numbers != "" { [ ]; text(0.9em, fill: faint, eval("= display(" + s.numbers + ")", mode: "math")) }
        if s.words.len() > 0 { h(2mm); text(7.5pt, fill: faint, said(s.words)) }
      }),
      number(text(weight: 700, s.value)),
      text(7.5pt, fill: faint, s.clause),
      table.hline(stroke: 0.2pt + rule),
    )).flatten(),
  )
  if block.combination != none { std.block(above: 1.2mm, width: 100%, fill: rgb("#eef2f4"), inset: (x: 1mm, y: 1.3mm), grid(
    columns: (1fr, auto, 30mm), column-gutter: 2mm,
    text(weight: 700)[Utilisation],
    number(text(weight: 700, block.utilisation + if block.holds { " ≤ 1" } else { " > 1" })),
    mark(if block.holds { "passes" } else { "fails" }),
  )) }
  for words in block.assumptions {
    std.block(above: 1mm, below: 1mm, text(7.5pt, fill: faint, said(words)))
  }
}
#let paragraph(block) = {
  if block.of == "item" { list(said(block.words), marker: [–]) } else if block.of == "missing" {
    std.block(inset: (left: 3mm, y: 0.8mm), stroke: (left: (paint: gone, thickness: 1.2pt, dash: "dashed")), said(block.words))
  } else if block.of == "fails" {
    std.block(inset: (left: 3mm, y: 0.8mm), stroke: (left: 1.6pt + bad), text(weight: 700, said(block.words)))
  } else { par(said(block.words)) }
}

// the designer's own words: looks and formulas in them, lists
#let remark-parts(parts) = for part in parts {
  if part.formula != "" { eval(part.formula, mode: "math") } else {
    let words = if part.sub { sub(size: 0.72em, part.words) } else { part.words }
    text(weight: if part.bold { 700 } else { 400 }, style: if part.italic or part.bold { "normal" } else { "italic" }, words)
  }
}
#let show-remark(block) = std.block(inset: (left: 3mm, y: 1.2mm), stroke: (left: 1.2pt + rgb("#1f5f7a")), {
  for line in block.lines {
    if line.item { list(remark-parts(line.parts), marker: [–]) } else { par(remark-parts(line.parts)) }
  }
})

// cover
#v(10mm)
#text(8.5pt, fill: faint, tracking: 0.12em)[STRUCTURAL DESIGN · STEEL]
#v(1mm)
#text(24pt, weight: 700, data.title)
#if data.place != "" [ #v(-2mm) #text(11pt, fill: faint, data.place) ]
#v(4mm)
#let tone = (passes: good, fails: bad, open: gone).at(data.standing)
#block(width: 100%, inset: 3mm, stroke: if data.standing == "open" { (paint: tone, thickness: 0.8pt, dash: "dashed") } else { 0.8pt + tone })[
  #text(weight: 700, fill: tone, data.verdict) #h(1fr) #text(fill: faint, data.revision)
]
#show-facts(data.cover)
#v(6mm)
#text(11.5pt, weight: 700)[Contents]
#v(1mm)
#columns(2, gutter: 9mm, text(8.5pt, outline(title: none, depth: 2, indent: 4mm)))
#if data.left_out.len() > 0 [
  #v(2mm)
  #text(fill: gone)[Left out of this document: #data.left_out.join(", ").]
]

#for chapter in data.chapters {
  if chapter.new-page { pagebreak(weak: true) } else { v(4mm) }
  [#heading(level: 1, chapter.title) #label(chapter.anchor)]
  place(chapter.anchor)
  for block in chapter.blocks {
    if block.kind == "heading" {
      [#heading(level: block.depth, outlined: block.depth < 3, said(block.words)) #label(block.anchor)]
      place(block.anchor)
      if block.aside.len() > 0 {
        std.block(above: -1mm, below: 2mm, sticky: true, text(7.5pt, fill: faint, said(block.aside)))
      }
    } else if block.kind == "table" { show-table(block) } else if block.kind == "facts" { show-facts(block) } else if block.kind == "figure" {
      std.block(above: 3mm, below: 3mm, breakable: false, width: 100%)[
        #align(center, image(bytes(block.svg), format: "svg", width: block.width * 1mm, alt: block.alt))
        #if block.words.len() > 0 { align(center, text(7.5pt, fill: faint, said(block.words))) }
      ]
    } else if block.kind == "picture" {
      std.block(above: 3mm, below: 3mm, breakable: false, width: 100%)[
        #if block.key in data.pictures {
          align(center, image(read(block.key, encoding: none), width: block.width * 100%, height: auto))
        } else { align(center, text(fill: gone)[This picture is not among those of the project.]) }
        #if block.words.len() > 0 { align(center, text(7.5pt, fill: faint, said(block.words))) }
      ]
    } else if block.kind == "proof" { show-proof(block) } else if block.kind == "remark" { show-remark(block) } else { paragraph(block) }
  }
}

#context [#metadata(counter(page).final().first()) <count>]

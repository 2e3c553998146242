<script setup lang="ts">
import { count } from '#core/language/counts'
import type { Field } from '#core/fields/field'
import { FIELD_TYPES } from '#core/fields/types'
import { sayDate } from '#core/time/say'
import { piecesOf, rowsOnPiece, type Coverage, type Piece } from '#core/tables/coverage'
import type { DecisionTable } from '#core/tables/table'
import { sayValue } from '#core/fields/say-value'
import { useHere } from '~/shared/words/useHere'

/**
 * The line of one input by bands: a bar for each row that takes in a stretch of it, brick where a stretch falls in
 * none.
 */
const props = defineProps<{ table: DecisionTable; at: number; field: Field; coverage: Coverage }>()
const here = useHere()
const WIDTH = 560
const pieces = computed(() =>
  piecesOf(
    props.table.rows.flatMap((row) => row.when[props.at] ?? []),
    props.field,
    here.value,
  ).filter((piece) => piece.piece === 'point' || piece.piece === 'between'),
)
/** Stretches are drawn equally wide, whatever they measure: what counts is which row has which border. */
const cells = computed(() => {
  const wide = (piece: Piece) => (piece.piece === 'point' ? 0.16 : 1)
  const unit =
    WIDTH /
    Math.max(
      1,
      pieces.value.reduce((sum, piece) => sum + wide(piece), 0),
    )
  let x = 0
  return pieces.value.map((piece) => {
    const width = wide(piece) * unit
    const cell = {
      piece,
      x,
      width,
      rows: rowsOnPiece(props.table, props.at, piece, props.field, here.value),
      hole: holed(piece, props.coverage.gaps),
      double: holed(piece, props.coverage.overlaps),
    }
    x += width
    return cell
  })
})
const same = (a: Piece, b: Piece): boolean => JSON.stringify(a) === JSON.stringify(b)
const holed = (piece: Piece, boxes: readonly { readonly box: Coverage['gaps'][number]['box'] }[]): boolean =>
  boxes.some(({ box }) => box[props.at]?.some((one) => same(one, piece)) ?? false)
const show = (value: number | string): string =>
  FIELD_TYPES[props.field.type].widget === 'date' ? sayDate(String(value)) : sayValue(value, props.field, here.value)
const points = computed(() =>
  cells.value.flatMap((cell) =>
    cell.piece.piece === 'point' ? [{ x: cell.x + cell.width / 2, text: show(cell.piece.at), hole: cell.hole }] : [],
  ),
)
const lanes = computed(() => Math.min(8, props.table.rows.filter((row) => row.when[props.at]?.is === 'band').length))
const bands = computed(() =>
  props.table.rows.flatMap((row, i) => (row.when[props.at]?.is === 'band' ? [i] : [])).slice(0, 8),
)
</script>

<template>
  <svg
    v-if="points.length > 0"
    :viewBox="`0 0 ${WIDTH} ${24 + lanes * 5 + 14}`"
    class="my-1 block w-full max-w-[560px]"
    role="img"
    :aria-label="`Coverage of ${field.label}: ${coverage.gaps.length === 0 ? 'no gaps' : count(coverage.gaps.length, 'gap')}`"
  >
    <g v-for="(cell, i) in cells" :key="i">
      <rect v-if="cell.hole" :x="cell.x" y="0" :width="cell.width" :height="10 + lanes * 5" fill="var(--brick-t)" />
      <rect v-if="cell.double" :x="cell.x" y="0" :width="cell.width" :height="10 + lanes * 5" fill="var(--saffron-t)" />
      <template v-for="(row, lane) in bands" :key="row">
        <rect
          v-if="cell.rows.includes(row)"
          :x="cell.x"
          :y="2 + lane * 5"
          :width="cell.width"
          height="3"
          fill="var(--violet)"
        />
      </template>
      <line
        :x1="cell.x"
        :x2="cell.x + cell.width"
        :y1="10 + lanes * 5"
        :y2="10 + lanes * 5"
        :stroke="cell.hole ? 'var(--brick)' : 'var(--ink)'"
        :stroke-width="cell.hole ? 3 : 1"
      />
    </g>
    <g v-for="point in points" :key="point.text">
      <line
        :x1="point.x"
        :x2="point.x"
        :y1="6 + lanes * 5"
        :y2="14 + lanes * 5"
        :stroke="point.hole ? 'var(--brick)' : 'var(--ink)'"
        stroke-width="1.5"
      />
      <text
        :x="point.x"
        :y="26 + lanes * 5"
        text-anchor="middle"
        font-size="11"
        :fill="point.hole ? 'var(--brick)' : 'var(--ink2)'"
      >
        {{ point.text }}
      </text>
    </g>
  </svg>
</template>

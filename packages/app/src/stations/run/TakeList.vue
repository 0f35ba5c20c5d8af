<script setup lang="ts">
import { Bookmark, BookmarkCheck } from '@lucide/vue';
import { computed, ref } from 'vue';
import ConfirmAct from '../../fields/ConfirmAct.vue';
import NameField from '../../fields/NameField.vue';
import { useDocumentStore } from '../../session/document';
import type { TakeRow } from '../../storage/database';
import { useRoomStore } from '../../stores/room';
import { useRunStore } from '../../stores/run';
import { takeName, useTakesStore } from '../../stores/takes';
import { bytesText, madeText, sumText } from '../../takes/words';
import TakePicture from './TakePicture.vue';
import { vTip } from '../../fields/tip';

// Every attempt at the shot: a press looks at it; below it stands what can be done with it.

const SHOWN = 6;

const document = useDocumentStore();
const takes = useTakesStore();
const run = useRunStore();
const room = useRoomStore();
const all = ref(false);
const shown = computed(() => (all.value ? takes.list : takes.list.slice(0, SHOWN)));
const bytes = computed(() => [...takes.list, ...takes.deleted].reduce((total, { sum }) => total + sum.bytes, 0));
/** What is erased to make room: as many of the oldest as give back a tenth of it. */
const offered = computed(() => {
  const wanted = (room.quota ?? 0) * 0.1;
  let total = 0;
  return room.offered.filter(({ sum }) => total < wanted && (total += sum.bytes) > 0);
});
const isLookedAt = (row: TakeRow) => row.id === (run.pose?.still ?? takes.take?.id);
const isFirm = (row: TakeRow) => row.spans.at(-1)?.inputsHash === document.hash;

function look(row: TakeRow): void {
  if (run.busy) return;
  if (row.source !== 'bake') return void run.showStill(row);
  run.leavePose();
  run.playing = false;
  void takes.lookAt(row);
}

async function takeUp(row: TakeRow): Promise<void> {
  if ((await takes.takeUp(row)) && row.source !== 'bake') await run.showStill(row);
}
</script>

<template>
  <div class="section">
    <h2 class="grow">Takes</h2>
    <span class="small" data-testid="takes-room">{{
      takes.list.length === 0 ? 'none yet' : `${takes.list.length}, ${bytesText(bytes)}`
    }}</span>
  </div>
  <p v-if="takes.list.length === 0" class="small">Every bake is kept here as a take, and so is every pose you keep.</p>
  <template v-for="row in shown" :key="row.id">
    <div class="row take stitched" :aria-current="isLookedAt(row)" data-testid="take">
      <button
        v-tip="`Look at ${takeName(row)}: frames, worst stretch, time a frame`"
        type="button"
        class="look"
        :disabled="run.busy"
        @click="look(row)"
      >
        <TakePicture :picture="row.picture" />
        <span class="grow">
          <span class="line"
            ><b class="strong cut">{{ takeName(row) }}</b
            ><span class="small">{{ madeText(row.made) }}</span></span
          >
          <span class="small cut line">{{ sumText(row) }}</span>
          <span v-if="row.note && !isLookedAt(row)" class="small cut line note">{{ row.note }}</span>
        </span>
      </button>
      <button
        v-tip="row.keep ? 'Kept: never offered to make room' : 'Keep: never offer it to make room'"
        type="button"
        class="icon-button"
        :aria-pressed="row.keep"
        :aria-label="`Keep ${takeName(row)}`"
        @click="takes.say(row, { keep: !row.keep }, row.keep ? `Let ${takeName(row)} go` : `Keep ${takeName(row)}`)"
      >
        <component :is="row.keep ? BookmarkCheck : Bookmark" :size="16" :stroke-width="1.5" />
      </button>
    </div>
    <div v-if="isLookedAt(row) && !run.busy" class="acts">
      <div class="words">
        <NameField
          class="text-input"
          label="Name of the take"
          :placeholder="takeName({ ...row, name: '' })"
          may-be-empty
          :model-value="row.name"
          @change="takes.say(row, { name: $event }, `Name ${takeName(row)}`)"
        />
        <NameField
          class="text-input"
          label="Note on the take"
          placeholder="Note"
          may-be-empty
          :model-value="row.note"
          @change="takes.say(row, { note: $event }, `Note on ${takeName(row)}`)"
        />
      </div>
      <p class="small">
        {{ row.quality }}, {{ bytesText(row.sum.bytes)
        }}<template v-if="row.from"> · to frame {{ row.from.frame }} as take {{ row.from.number }}</template>
      </p>
      <div class="choices">
        <button
          v-if="!isFirm(row)"
          v-tip="'Bring the shot back as it was for this take: one edit, undoable'"
          type="button"
          class="choice"
          @click="takeUp(row)"
        >
          Take up again
        </button>
        <template v-if="row.source === 'bake' && takes.byFrame.has(run.frame)">
          <button
            v-if="run.frame < run.lastFrame"
            v-tip="'A new take goes on from this frame with the shot as it is now'"
            type="button"
            class="choice"
            @click="run.startBake(run.frame)"
          >
            Go on from {{ run.frame }}
          </button>
          <button
            v-if="run.frame < (takes.bakedUntil ?? 0)"
            v-tip="'Take the frames after this one away; undoable'"
            type="button"
            class="choice"
            @click="takes.cutAfter(row, run.frame)"
          >
            Cut after {{ run.frame }}
          </button>
        </template>
        <button v-if="row.cut !== undefined" type="button" class="choice" @click="takes.cutAfter(row, null)">
          Bring back what was cut
        </button>
        <button v-tip="'Undoable'" type="button" class="choice" @click="takes.remove(row)">Delete</button>
      </div>
    </div>
  </template>
  <button v-if="takes.list.length > SHOWN" type="button" class="choice more" @click="all = !all">
    {{ all ? 'Show the latest' : `Show all ${takes.list.length}` }}
  </button>
  <div v-for="row in takes.deleted.slice(0, 3)" :key="row.id" class="gone small">
    <span class="grow cut">{{ takeName(row) }}, deleted</span>
    <button type="button" class="choice" :disabled="run.busy" @click="takes.bringBack(row)">Bring back</button>
  </div>
  <div v-if="room.short || takes.unkept.length > 0" class="short" role="status" data-testid="room">
    <p v-if="takes.unkept.length > 0 && run.refused" class="small">
      <b class="strong">{{ takes.unkept.length }} frames are only in memory:</b> the browser has no room for them. Make
      room, or hand them off before the tab is closed.
    </p>
    <p v-else-if="room.short" class="small">
      <b class="strong">The browser’s room runs short:</b> {{ bytesText(room.left ?? 0) }} are left of
      {{ bytesText(room.quota ?? 0) }}.
    </p>
    <div v-if="room.short" class="choices">
      <ConfirmAct
        v-if="offered.length > 0"
        question="Erase these takes for good? This cannot be undone."
        act="Erase for good"
        @confirm="room.make(offered)"
      >
        <button type="button" class="choice">
          {{
            `Erase ${offered.map(takeName).slice(0, 3).join(', ')}${offered.length > 3 ? `, ${offered.length - 3} more` : ''}`
          }}
        </button>
      </ConfirmAct>
      <span v-else class="small"
        >All other takes are kept. Let one go, or save the shot as a file and delete it at home.</span
      >
      <button v-if="takes.unkept.length > 0 && !run.busy" type="button" class="choice" @click="room.make([])">
        Try to keep them again
      </button>
    </div>
  </div>
</template>

<style scoped>
.take {
  padding-right: 8px;
  min-height: 44px;
  flex: none;
}
.look {
  flex: 1;
  min-width: 0;
  display: flex;
  align-items: center;
  gap: 8px;
  text-align: left;
  min-height: 44px;
  padding: 4px 0;
  opacity: 1;
}
.line {
  display: flex;
  gap: 8px;
  justify-content: space-between;
}
span.line.small {
  display: block;
}
.note {
  color: var(--ink-9);
}
.acts {
  margin-inline: -16px;
  padding: 0 16px 8px;
  background: var(--linen-0);
}
.words {
  display: grid;
  grid-template-columns: 104px 1fr;
  gap: 4px;
}
.words .text-input {
  background: var(--linen-1);
  width: 100%;
}
.acts p {
  margin-top: 4px;
}
.more {
  margin-top: 8px;
  align-self: flex-start;
  flex: none;
}
.gone {
  display: flex;
  align-items: center;
  gap: 8px;
  min-height: 32px;
  flex: none;
}
.short {
  margin-top: 8px;
  padding-left: 8px;
  border-left: 2px solid var(--weld);
  flex: none;
}
</style>

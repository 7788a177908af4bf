<script setup lang="ts">
import { useBenchLive } from './live.js';

/** Who records this session, and how the hand goes from one browser to another. */
const live = useBenchLive();
</script>

<template>
  <div v-if="live.recorder && !live.recorder.mine" class="hand-note" role="status">
    <template v-if="live.recorder.asking">
      The other browser is asked. It is yours when it says yes, when it is closed, or when nobody answers there for a
      minute.
    </template>
    <template v-else>
      {{
        live.recorder.refused
          ? 'The other browser goes on recording.'
          : live.recorder.taken
            ? 'Another browser records this session; this one looks on.'
            : 'Nobody records this session now.'
      }}
      <el-button link type="primary" @click="live.takeOver()">
        {{ live.recorder.taken ? 'Ask to take over' : 'Take over' }}
      </el-button>
    </template>
  </div>
  <div v-else-if="live.recorder?.asked" class="hand-note" role="alert">
    Another browser asks to record this session. If nobody answers here within a minute, it takes over.
    <el-button link type="primary" @click="live.handOver(true)">Hand over</el-button>
    <el-button link type="primary" @click="live.handOver(false)">Continue recording here</el-button>
  </div>
</template>

<style scoped>
.hand-note .el-button {
  font: inherit;
  /* The run is dark in either theme. */
  color: inherit;
  vertical-align: baseline;
  text-decoration: underline;
}
</style>

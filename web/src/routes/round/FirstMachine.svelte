<!-- A household without a machine. -->
<script lang="ts">
  import Empty from '../../lib/ui/Empty.svelte';
</script>

<Empty title="No machine yet.">
  <p>
    Add the first one: pick it by its picture, say when it runs, and its dates stand here. It takes a minute
    or two.
  </p>
  <p class="flex flex-wrap gap-3">
    <a class="btn btn-primary btn-lg" href="#/add">Add a machine</a>
    <a class="btn btn-lg" href="#/household">Tell of your household</a>
  </p>
</Empty>

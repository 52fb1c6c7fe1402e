<script lang="ts">
  let { what }: { what: string } = $props();
</script>

<p class="soft flex items-center gap-3 p-6" role="status">
  <span class="loading loading-dots loading-md" aria-hidden="true"></span>
  {what}
</p>

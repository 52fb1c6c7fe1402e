<!-- An address that was this page's before: it leads where the page is now. -->
<script lang="ts">
  import { replace, router } from 'svelte-spa-router';

  void replace(router.location.replace(/^\/trace/, '/faults'));
</script>

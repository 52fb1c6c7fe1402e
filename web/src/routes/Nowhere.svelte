<div class="mx-auto max-w-xl p-6">
  <h1 class="text-2xl font-bold">There is no such page.</h1>
  <p class="mt-2"><a class="link" href="#/">Go to Round</a></p>
</div>

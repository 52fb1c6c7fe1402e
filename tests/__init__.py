from hypothesis import settings

# Machines are noisy: how long an example takes is no matter of right or wrong.
settings.register_profile("yperon", deadline=None)
settings.load_profile("yperon")

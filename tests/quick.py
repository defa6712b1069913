"""What makes tests quick without changing what they test."""

from django.test import override_settings

#: accounts of tests need no slow hash
quick_passwords = override_settings(PASSWORD_HASHERS=["django.contrib.auth.hashers.MD5PasswordHasher"])

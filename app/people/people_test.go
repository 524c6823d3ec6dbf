package people

import (
	"strings"
	"testing"
)

// TestPasswordHash: a hash is argon2id in the PHC format, of its password alone, and one that cannot be read is
// of none.
func TestPasswordHash(t *testing.T) {
	a, b := HashPassword("seven loaves on a rail"), HashPassword("seven loaves on a rail")
	if a == b || !strings.HasPrefix(a, "$argon2id$v=19$m=19456,t=2,p=1$") {
		t.Errorf("%s, %s", a, b)
	}
	if !PasswordIs(a, "seven loaves on a rail") || PasswordIs(a, "seven loaves on a Rail") || PasswordIs(a, "") {
		t.Error("it is not told whose it is")
	}
	for _, odd := range []string{"", "$", "$argon2id$v=19$m=19456,t=2,p=1$$", "$argon2id$v=19$m=4294967295,t=2,p=1$AAAA$AAAA",
		"$argon2id$v=19$m=19456,t=0,p=0$AAAA$AAAA", "$argon2i$v=19$m=19456,t=2,p=1$AAAA$AAAA", strings.Replace(a, "v=19", "v=16", 1)} {
		if PasswordIs(odd, "") || PasswordIs(odd, "seven loaves on a rail") {
			t.Errorf("%q is taken", odd)
		}
	}
}

// TestPublishedHashes are made by argon2's reference command line, as its README shows and its tests have them:
// argon2id, version 19. Source: github.com/P-H-C/phc-winner-argon2, src/test.c.
func TestPublishedHashes(t *testing.T) {
	for _, c := range []struct{ hash, password string }{
		{"$argon2id$v=19$m=65536,t=2,p=1$c29tZXNhbHQ$CTFhFdXPJO1aFaMaO6Mm5c8y7cJHAph8ArZWb2GRPPc", "password"},
		{"$argon2id$v=19$m=256,t=2,p=1$c29tZXNhbHQ$nf65EOgLrQMR/uIPnA4rEsF5h7TKyQwu9U1bMCHGi/4", "password"},
		{"$argon2id$v=19$m=256,t=2,p=2$c29tZXNhbHQ$bQk8UB/VmZZF4Oo79iDXuL5/0ttZwg2f/5U52iv1cDc", "password"},
		{"$argon2id$v=19$m=65536,t=1,p=1$c29tZXNhbHQ$9qWtwbpyPd3vm1rB1GThgPzZ3/ydHL92zKL+15XZypg", "password"},
		{"$argon2id$v=19$m=65536,t=4,p=1$c29tZXNhbHQ$kCXUjmjvc5XMqQedpMTsOv+zyJEf5PhtGiUghW9jFyw", "password"},
		{"$argon2id$v=19$m=65536,t=2,p=1$c29tZXNhbHQ$C4TWUs9rDEvq7w3+J4umqA32aWKB1+DSiRuBfYxFj94", "differentpassword"},
		{"$argon2id$v=19$m=65536,t=2,p=1$ZGlmZnNhbHQ$vfMrBczELrFdWP0ZsfhWsRPaHppYdP3MVEMIVlqoFBw", "password"},
	} {
		if !PasswordIs(c.hash, c.password) {
			t.Errorf("%s is not told to be of %q", c.hash, c.password)
		}
	}
}

// TestPasswords: what is short, common, or one's own name is refused; a login that nobody has costs a hash too.
func TestPasswords(t *testing.T) {
	if a, b := strings.Split(nobodys(), "$"), strings.Split(HashPassword("x"), "$"); strings.Join(a[:4], "$") != strings.Join(b[:4], "$") {
		t.Error("a login that nobody has costs another hash than one that somebody has: " + nobodys())
	}
	for password, good := range map[string]bool{"seven loaves on a rail": true, "short": false, "password1234": false, "Password!2026": false,
		"qwertyqwerty": false, "adaadaadaada": false, "my name is Ada Q.": false, strings.Repeat("long", 60): false, "naïve Brötchen um 4": true,
		"\xff\xfe seven loaves": false, "iloveyou2026!": false, "sunshine1234": false,
		"1234567890123": false, "trustno1trustno1": false, "correct horse battery staple": true} {
		if err := checkPassword("password", password, "ada", "Ada Q."); (err == nil) != good {
			t.Errorf("%q: %v", password, err)
		}
	}
}

// TestNamesDoNotMislead: no account is called what could pass for another's name; names of any one alphabet are taken.
func TestNamesDoNotMislead(t *testing.T) {
	for name, want := range map[string]bool{"Ada Quillmark": false, "Ада Перова": false, "Élodie O’Neill-Åberg": false,
		"Ελένη Papadaki":     false,
		"田中 愛":               false,
		"Ad\u0430 Quillmark": true, "Ada\u200b Quillmark": true, "\u202eadA": true, "Mir\u03b1": true, "Ada\u2028Quillmark": true} {
		n := NewPerson{Identity: Identity{Login: "somebody", Name: name, Password: "seven loaves on a rail"}, Role: Reader}
		if err := n.check(); (err != nil) != want {
			t.Errorf("%+q: %v", name, err)
		}
	}
}

package pattern

// The methods of regexp.Regexp by which the product reads, each with the look before it.

func (p *Pattern) MatchString(s string) bool { return p.may(s) && p.Regexp.MatchString(s) }

func (p *Pattern) FindString(s string) string {
	if !p.may(s) {
		return ""
	}
	return p.Regexp.FindString(s)
}

func (p *Pattern) FindStringIndex(s string) []int {
	if !p.may(s) {
		return nil
	}
	return p.Regexp.FindStringIndex(s)
}

func (p *Pattern) FindStringSubmatch(s string) []string {
	if !p.may(s) {
		return nil
	}
	return p.Regexp.FindStringSubmatch(s)
}

func (p *Pattern) FindStringSubmatchIndex(s string) []int {
	if !p.may(s) {
		return nil
	}
	return p.Regexp.FindStringSubmatchIndex(s)
}

func (p *Pattern) FindAllString(s string, n int) []string {
	if !p.may(s) {
		return nil
	}
	return p.Regexp.FindAllString(s, n)
}

func (p *Pattern) FindAllStringIndex(s string, n int) [][]int {
	if !p.may(s) {
		return nil
	}
	return p.Regexp.FindAllStringIndex(s, n)
}

func (p *Pattern) FindAllStringSubmatch(s string, n int) [][]string {
	if !p.may(s) {
		return nil
	}
	return p.Regexp.FindAllStringSubmatch(s, n)
}

func (p *Pattern) FindAllStringSubmatchIndex(s string, n int) [][]int {
	if !p.may(s) {
		return nil
	}
	return p.Regexp.FindAllStringSubmatchIndex(s, n)
}

func (p *Pattern) ReplaceAllString(s, with string) string {
	if !p.may(s) {
		return s
	}
	return p.Regexp.ReplaceAllString(s, with)
}

func (p *Pattern) ReplaceAllStringFunc(s string, with func(string) string) string {
	if !p.may(s) {
		return s
	}
	return p.Regexp.ReplaceAllStringFunc(s, with)
}

package reason_test

import (
	"fmt"

	"envex/core/reason"
)

func ExampleErrorf() {
	err := fmt.Errorf("reach: %w", reason.Errorf("%s has no recipe for %s", "Long board", "Lead"))
	fmt.Println(err)
	fmt.Println(reason.Sentence(err))
	// Output:
	// reach: Long board has no recipe for Lead
	// Long board has no recipe for Lead. true
}

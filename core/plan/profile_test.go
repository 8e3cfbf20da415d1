package plan_test

import (
	"reflect"
	"testing"

	"github.com/stretchr/testify/assert"

	"envex/core/plan"
)

func TestTheUsualFeetAreThoseInForceWhereNothingIsGiven(t *testing.T) {
	usual := plan.UsualFeet()
	assert.Equal(t, plan.FootProfile{}.Filled(), usual.Filled())
	v := reflect.ValueOf(usual)
	for i := range v.NumField() {
		assert.False(t, v.Field(i).IsNil(), "%s has a starting value", v.Type().Field(i).Name)
	}
	// Each figure that is given is in force, and no other is moved by it.
	for i := range v.NumField() {
		var one plan.FootProfile
		given := reflect.ValueOf(&one).Elem().Field(i)
		given.Set(reflect.New(given.Type().Elem()))
		different := 0
		now, was := reflect.ValueOf(one.Filled()), reflect.ValueOf(plan.FootProfile{}.Filled())
		for k := range now.NumField() {
			if now.Field(k).Interface() != was.Field(k).Interface() {
				different++
			}
		}
		assert.Equal(t, 1, different, v.Type().Field(i).Name)
	}
}

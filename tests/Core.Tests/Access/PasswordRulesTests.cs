using FirstCoat.Core.Access;

namespace FirstCoat.Core.Tests.Access;

/// <summary>What may open an account.</summary>
public sealed class PasswordRulesTests
{
    [Theory]
    [InlineData("short word")]
    [InlineData("password1234")]
    [InlineData("Sunshine2024!")]
    [InlineData("qwertyuiopas")]
    [InlineData("123456789012")]
    [InlineData("abcabcabcabc")]
    [InlineData("aaaaaaaaaaaaaaaa")]
    [InlineData("MyKettleQuay", "my kettle", "kettle", "MyKettleQuay")]
    [InlineData("sunniva roake", "Sunniva Roake")]
    [InlineData("two lines\nof it")]
    public void A_password_that_would_be_guessed_first_is_refused(string password, params string[] own) =>
        Should.Throw<Refusal>(() => PasswordRules.Check(password, "password", own)).Field.ShouldBe("password");

    [Theory]
    [InlineData("copper tea lantern")]
    [InlineData("kettle-quay-demo")]
    [InlineData("Übung macht müde")]
    [InlineData("a long test password")]
    [InlineData("sunniva keeps nine builds", "Sunniva Roake")]
    public void Words_of_ones_own_will_do(string password, params string[] own) =>
        PasswordRules.Check(password, "password", own);

    [Fact]
    public void The_longest_password_is_allowed_and_one_more_is_not()
    {
        var longest = string.Concat(Enumerable.Range(0, PasswordRules.Most).Select(i => (char)('a' + (i * 7 % 26))))[
            ..PasswordRules.Most
        ];
        PasswordRules.Check(longest[..(PasswordRules.Most - 4)] + "x9 b", "password");
        Should.Throw<Refusal>(() => PasswordRules.Check(longest + "x", "password"));
    }
}

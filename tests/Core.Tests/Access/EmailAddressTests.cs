using FirstCoat.Core.Access;

namespace FirstCoat.Core.Tests.Access;

/// <summary>The one check of an address.</summary>
public sealed class EmailAddressTests
{
    [Theory]
    [InlineData("o@example.org")]
    [InlineData(" Ottoline.Vane+car@post.example.org ")]
    [InlineData("")]
    public void An_address_that_a_letter_reaches_is_taken(string text) =>
        EmailAddress.Checked(text, "email").ShouldBe(text.Trim());

    [Theory]
    [InlineData("nobody")]
    [InlineData("a@b")]
    [InlineData("a@@b.org")]
    [InlineData("a@b..org")]
    [InlineData(".a@b.org")]
    [InlineData("a b@c.org")]
    [InlineData("Otto <o@example.org>")]
    [InlineData("o@example.org, p@example.org")]
    [InlineData("o@example.org\r\nBcc: p@example.org")]
    [InlineData("o@-example.org")]
    [InlineData("ö@example.org")]
    [InlineData("\"o\"@example.org")]
    public void What_is_none_is_refused_with_its_field(string text) =>
        Should.Throw<Refusal>(() => EmailAddress.Checked(text, "clientEmail")).Field.ShouldBe("clientEmail");

    [Fact]
    public void An_address_longer_than_mail_allows_is_refused() =>
        EmailAddress.IsGood($"a@{string.Join('.', Enumerable.Repeat(new string('b', 60), 5))}.org").ShouldBeFalse();
}

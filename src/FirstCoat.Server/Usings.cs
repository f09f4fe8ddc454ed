global using System.Globalization;
global using FirstCoat.Core;
global using FirstCoat.Store;
global using Microsoft.EntityFrameworkCore;
global using NodaTime;
global using FirstCoat.Store.Access;
